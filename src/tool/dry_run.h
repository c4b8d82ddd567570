// What a study would do, without doing it.
#pragma once

#include <filesystem>

#include "study/study.h"

namespace mileage {

/// Prints the checks, the cells, the order of the first block and the time that the plan would take. The time is that
/// of the blocks in `output` where they were measured already; otherwise it lies between what every run takes at
/// least and what it takes at the edge of the budget.
void show_dry_run(const Scenario& scenario, const Plan& plan, const std::filesystem::path& output, bool json);

}  // namespace mileage
