// What a run may contain, from any source: a program, a table, a study file.
#pragma once

#include <optional>

#include "study/study.h"
#include "types/error.h"

namespace mileage {

/// The first thing in a run that cannot be: a number that is none, a time that is not above zero, a count out of
/// range. Its field, what was found, and what would be accepted; nothing where all is well. Values of an outcome may be
/// NaN: that they agree with nothing is an answer.
std::optional<Fault> fault_in(const Run& run);

}  // namespace mileage
