# Scripts that build everything once (scripts/test, scripts/demo) compile the files of a folder together, some ten at a
# time: what they include is read once for all, which halves the time to build. Who works on a file builds without
# (FULMOX_BATCHES=OFF, the default), and compiles that file only.
option(FULMOX_BATCHES "Compile the files of a folder together" OFF)

# Files that come in kinds use the same local names by habit (`fields`, `build`, `shape`), so they stay alone.
set(BATCH_NOT "/core/mechanism/|/core/motion/laws/|/core/drive/|/core/stage/|_limits.cpp$|_formulas.cpp$")

# What draws with the plotting library is one batch across folders: its header takes six seconds to read.
set(BATCH_OF_PLOTS "/app/(capability/(bench_plots|envelope_plot)|heat/heat_view|machine/(column_stack|machine_plots)|match/(match_kinds|match_plot)|sheet/(dots|plot|plot_style|torque_plane|torque_stack)|study/profile_view)\\.cpp$")

# Puts the sources of `target` into batches of up to ten files of one folder.
function(compile_in_batches target)
  if(NOT FULMOX_BATCHES)
    return()
  endif()
  set_target_properties(${target} PROPERTIES UNITY_BUILD ON UNITY_BUILD_MODE GROUP)
  get_target_property(sources ${target} SOURCES)
  set(folder "")
  foreach(file IN LISTS sources)
    if(NOT file MATCHES "\\.cpp$" OR file MATCHES "${BATCH_NOT}")
      continue()
    endif()
    if(file MATCHES "${BATCH_OF_PLOTS}")
      set_source_files_properties(${file} PROPERTIES UNITY_GROUP plots)
      continue()
    endif()
    get_filename_component(its_folder ${file} DIRECTORY)
    if(NOT its_folder STREQUAL folder)
      set(folder ${its_folder})
      set(count 0)
      string(REGEX REPLACE "^${CMAKE_CURRENT_SOURCE_DIR}/" "" name "${folder}")
      string(REPLACE "/" "_" name "${name}")
    endif()
    math(EXPR batch "${count} / 10")
    math(EXPR count "${count} + 1")
    set_source_files_properties(${file} PROPERTIES UNITY_GROUP ${name}_${batch})
  endforeach()
endfunction()
