# Qt's meta-object code of the classes with Q_OBJECT, one step a header, compiled as one file. CMake's own AUTOMOC hands
# every include path to moc, which then reads all of Qt and the core for each header (half a minute on one core); what moc
# needs stands in the header itself.
function(add_meta_objects target)
  set(includes "")
  set(outputs "")
  foreach(header IN LISTS ARGN)
    file(RELATIVE_PATH path ${CMAKE_CURRENT_SOURCE_DIR} ${header})
    string(REGEX REPLACE "[/.]" "_" name ${path})
    set(output ${CMAKE_CURRENT_BINARY_DIR}/meta_objects/${name}.cpp)
    # -nn: no note about a header without such a class, whose output stays empty
    add_custom_command(OUTPUT ${output} COMMAND Qt6::moc -nn -f ${path} -o ${output} ${header} DEPENDS ${header} VERBATIM)
    list(APPEND outputs ${output})
    string(APPEND includes "#include \"${output}\"\n")
  endforeach()
  set(all ${CMAKE_CURRENT_BINARY_DIR}/meta_objects/all.cpp)
  file(CONFIGURE OUTPUT ${all} CONTENT "${includes}" @ONLY)
  set_source_files_properties(${all} PROPERTIES OBJECT_DEPENDS "${outputs}")
  target_sources(${target} PRIVATE ${all})
endfunction()
