// What stands around every answer, as text: warnings and failures before it, evidence and machine behind it.
#pragma once

#include <string>
#include <vector>

#include "analysis/answers/about.h"

namespace mileage {

/// What must be said before any answer: visits that failed, and warnings.
std::string preamble(const About& about);
/// What an answer rests on, in one line; stands last.
std::string evidence_line(const About& about);
/// The same with machine, build and method.
std::string evidence_footer(const About& about);

/// One line per series and reason for which visits failed, at most `most` of them and a line that counts the rest.
std::vector<std::string> failure_lines(const std::vector<Failure>& failures, const Axis& axis, std::size_t most = 8);

/// "drift.study.jsonl: 6 blocks, 312 visits", and the machine.
std::string evidence_text(const About& about);
/// How fast the machine was and what that took off, then how quiet it was.
std::vector<std::string> quietness_lines(const About& about);
/// "mine.study.jsonl: a processor, 2 cores ...": on which machine a study was made.
std::string machine_line(const About& about);
/// What measuring itself cost; no lines where visits do not tell.
std::vector<std::string> spent_lines(const About& about);
/// For every size that was walked between frames, which caches it exceeds: "cold 8MB: walked between frames, outside
/// their time; more than L1 (32 KiB); more than L2 (1 MiB); less than L3 (33 MiB), which stays warm".
std::vector<std::string> cold_lines(const About& about);
/// The machine, and how what was measured was built or which commands were measured: a line each. For recordings from
/// elsewhere one line that says that nothing is known of either.
std::vector<std::string> origin_lines(const Head& head);

}  // namespace mileage
