// What every answer is followed by: failures, warnings, and what it rests on.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"
#include "views/answer.h"

namespace mileage {

/// What changes how an answer reads, for its verdict: a build without optimization, variants excluded for wrong
/// results.
std::vector<std::string> cautions(const About& about);
/// Runs that failed and warnings, as notes.
std::vector<Note> notes_of(const About& about);
/// What an answer rests on, in one line: "drift.study.jsonl: 7 blocks, 164 runs, 3 discarded; machine 11 % slow,
/// corrected (--more)". With `more` also machine, build and method.
std::string source_text(const About& about, bool more);

/// One line per series and reason for which runs failed, at most `max` of them and a line that counts the rest.
std::vector<std::string> failure_lines(const std::vector<Failure>& failures, const Axis& axis, std::size_t max = 8);

/// "drift.study.jsonl: 6 blocks, 312 runs".
std::string evidence_text(const About& about);
/// Slowdown of the machine with its correction, discarded runs, load.
std::vector<std::string> condition_lines(const About& about);
/// Where the time of measuring went; nothing where runs do not say.
std::vector<std::string> spent_lines(const About& about);
/// For every size that was walked between frames, which caches it exceeds: "cold 8MB: walked between frames, outside
/// their time; more than L1 (32 KiB); more than L2 (1 MiB); less than L3 (33 MiB), which stays warm".
std::vector<std::string> cold_lines(const About& about);
/// The machine, and how what was measured was built or which commands were measured: a line each. For recordings from
/// elsewhere one line that says that nothing is known of either.
std::vector<std::string> origin_lines(const Head& head);

}  // namespace mileage
