// The answer of `frames`: spikes, frames over the budget, warm-up, work by worker.
#pragma once

#include "analysis/answers/about.h"
#include "analysis/answers/frames.h"
#include "views/answer.h"

namespace mileage {

Answer frames_view(const About& about, const FramesAnswer& answer);

}  // namespace mileage
