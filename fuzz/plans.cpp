#include "fuzz_target.h"
#include "tool/plan_file.h"
#include "types/error.h"
#include "types/scenario_check.h"

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace mileage;
  try {
    MeasureOptions options;
    options.plan_file = "night.toml";
    read_plan_text(fuzz::text_of(data, size), "night.toml", options);
    if (options.own_commands)
      fuzz::must(mistakes_in(options.own_commands->scenario).empty(), "a scenario that was accepted has no mistakes");
    options.builds.clear();  // They are looked for on the disk.
    const PlanRequest request = request_of(options);
    if (options.own_commands) make_plan(options.own_commands->scenario, request);
  } catch (const Error&) {}
  return 0;
}
