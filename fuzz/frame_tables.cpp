#include <sstream>

#include "fuzz_target.h"
#include "measure/recordings/recorded_study.h"
#include "study/frame_table.h"
#include "study/run_check.h"
#include "types/error.h"

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace mileage;
  try {
    std::istringstream stream(fuzz::text_of(data, size));
    TableFormat format;
    format.count = 100;
    const Study study = study_of_recordings(read_frame_table(stream, "night-100.csv", format), {});
    for (const Run& run : study.runs) fuzz::must(!fault_in(run), "a run of a table that was accepted is a run");
  } catch (const Error&) {}
  return 0;
}
