// Where the time of frames goes, count by count, and which of processor and device ends them.
#pragma once

#include "analysis/answers/about.h"
#include "analysis/answers/parts.h"
#include "views/answer.h"

namespace mileage {

/// Threads, phases, counters and memory; a table per series.
Answer parts_view(const About& about, const PartsAnswer& answer);
/// Processor and device; nothing where no device is at work.
Answer devices_view(const About& about, const PartsAnswer& answer);

}  // namespace mileage
