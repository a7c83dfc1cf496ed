// Edits a machine, keeps and saves it, until it is done or killed. Its calls that touch the disk go through
// faults.cpp, which can end or refuse any of them.
//
//   crash_worker FOLDER once|forever

#include "core/keeping/keeper.hpp"
#include "crash/faults.hpp"

#include <cstdio>
#include <cstdlib>
#include <string>

using namespace fulmox;

int main(int argc, char** argv) {
  if (argc != 3) return 2;
  const std::filesystem::path folder = argv[1];
  const bool forever = std::string(argv[2]) == "forever";
  const auto file = folder / "m.fulmox";
  auto loaded = load_document(FULMOX_SOURCE_DIR "/data/demo/transplanter.fulmox");
  if (!loaded) return 4;
  Document document = std::move(*loaded);
  Keeper keeper(folder / "state", [](const Problem&) {});
  if (!keeper.attach(file)) return 3;
  std::setvbuf(stdout, nullptr, _IONBF, 0);
  testing::arm_faults();
  for (int state = 1; forever || state <= 3; ++state) {
    document.name = "state " + std::to_string(state);
    document.axes[0]["load"].type("moved_mass", std::to_string(state) + " kg");
    if (state % 3 == 2) {
      const auto problem = save_document(document, file);
      if (!problem) keeper.drop();
      std::printf("%s %d\n", problem ? "refused" : "saved", state);
    } else {
      keeper.keep(document, state);
      keeper.flush();
      std::printf("kept %d\n", state);
    }
  }
  testing::disarm_faults();
  std::printf("done %ld\n", testing::calls_made());
  return 0;
}
