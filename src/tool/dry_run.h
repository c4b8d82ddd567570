#pragma once

#include <filesystem>

#include "study/study.h"

namespace mileage {

/// Prints checks, cells, order of the first block and predicted time: from blocks in `output`, or between the minimum
/// of every run and its cost at the budget.
void show_dry_run(const Scenario& scenario, const Plan& plan, const std::filesystem::path& output, bool json);

}  // namespace mileage
