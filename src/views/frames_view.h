// The answer of `frames`: spikes, settling, and what is over the budget.
#pragma once

#include <string>

#include "analysis/answers/about.h"
#include "analysis/answers/frames.h"
#include "study/study_json.h"
#include "views/text_table.h"

namespace mileage {

/// "jobs at 100k lanterns: 11.1 of 1,000 frames spike, to 2.1 times the frames around them, every 90 frames; of what
/// they take more, 92 % in phase gather."
std::string frames_sentence(const About& about, const CellFrames& cell);

TextTable spikes_table(const About& about, const FramesAnswer& answer);
TextTable over_table(const About& about, const FramesAnswer& answer);
/// Worker by worker, and what perfect balance would save.
TextTable work_table(const About& about, const FramesAnswer& answer);
TextTable settling_table(const About& about, const FramesAnswer& answer);

std::string frames_text(const About& about, const FramesAnswer& answer);

/// Adds rows "frames", with "parts" of spikes, "beginning" and "sorted_ms" in each.
void add_frames_json(Json& json, const About& about, const FramesAnswer& answer);

}  // namespace mileage
