#include "views/about_view.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/evidence/labels.h"
#include "types/notation.h"
#include "views/words.h"

namespace mileage {
namespace {

/// A smaller slowdown changes nothing for the reader.
constexpr double min_slowness_named = 1.005;

std::string cold_text(double cold_bytes, const Machine& machine) {
  std::string text = fmt::format("cold {}: read between frames, outside their time", bytes_text(cold_bytes));
  for (const auto& [name, bytes] : machine.cache_bytes)
    text += fmt::format("; {} {} ({})", cold_bytes > bytes ? "more than" : "less than", name, memory_text(bytes));
  if (!machine.cache_bytes.empty() && cold_bytes <= machine.cache_bytes.rbegin()->second) text += ", which stays warm";
  return text;
}

}  // namespace

std::vector<std::string> cautions(const About& about) {
  std::vector<std::string> lines;
  const Build& build = about.head.scenario.build;
  if (build.known && !build.optimized)
    lines.emplace_back("Built without optimization: these times say nothing about a release build.");
  std::vector<std::string> excluded;
  for (const Agreement& one : about.agreements)
    if (one.verdict == AgreementVerdict::differs || one.verdict == AgreementVerdict::unstable)
      excluded.push_back(label_of(one.series, about.head.plan.series));
  if (!excluded.empty()) lines.push_back(fmt::format("Excluded for wrong results: {}.", fmt::join(excluded, ", ")));
  return lines;
}

std::vector<Note> notes_of(const About& about) {
  std::vector<Note> notes;
  for (const std::string& line : failure_lines(about.failures, about.axis))
    notes.push_back({line, Note::Kind::failure, false});
  for (const std::string& warning : about.warnings) notes.push_back({warning, Note::Kind::note, false});
  return notes;
}

std::string source_text(const About& about, bool more) {
  const MachineCondition& quiet = about.quiet;
  std::string line = evidence_text(about);
  if (quiet.condemned > 0) line += fmt::format(", {} discarded", quiet.condemned);
  if (quiet.slowness && *quiet.slowness > min_slowness_named)
    line += fmt::format("; machine {} slow, corrected", percent_text(*quiet.slowness - 1));
  if (!more && about.is_one_of_several) line += "; " + origin_lines(about.head).front();
  if (!more) return line + " (--more)\n";
  std::string text = line + "\n";
  for (const auto& lines : {cold_lines(about), condition_lines(about), spent_lines(about), origin_lines(about.head)})
    for (const std::string& one : lines) text += one + "\n";
  return text;
}

std::vector<std::string> failure_lines(const std::vector<Failure>& failures, const Axis& axis, std::size_t max) {
  struct Alike {
    const Failure* first;
    std::set<double> at;
    std::size_t runs = 0;
  };
  std::vector<Alike> kinds;
  for (const Failure& failure : failures) {
    auto kind = std::find_if(kinds.begin(), kinds.end(), [&](const Alike& one) {
      return one.first->label == failure.label && one.first->reason == failure.reason;
    });
    if (kind == kinds.end()) kind = kinds.insert(kinds.end(), {&failure, {}, 0});
    kind->at.insert(failure.x);
    ++kind->runs;
  }
  std::vector<std::string> lines;
  for (const Alike& kind : kinds) {
    if (lines.size() == max) {
      lines.push_back(fmt::format("{} more kinds of failure", kinds.size() - max));
      break;
    }
    std::vector<std::string> places;
    for (const double x : kind.at) places.push_back(place_text(x, axis));
    lines.push_back(fmt::format("{} at {}{}: {}", kind.first->label, fmt::join(places, ", "),
                                kind.runs > 1 ? fmt::format(" ({} runs)", kind.runs) : "", kind.first->reason));
  }
  return lines;
}

std::string evidence_text(const About& about) {
  return fmt::format("{}: {} block{}, {} run{}{}", about.study, about.blocks, about.blocks == 1 ? "" : "s", about.runs,
                     about.runs == 1 ? "" : "s",
                     about.failures.empty() ? "" : fmt::format(", {} failed", about.failures.size()));
}

/// "; costs corrected by 3 to 12 %".
std::string correction_text(const About& about) {
  double min = HUGE_VAL;
  double max = -HUGE_VAL;
  for (const NamedSeries& one : about.series)
    if (one.adjusted) {
      const double percent = std::round(100 * one.adjusted->taken_off) + 0.0;  // no -0
      min = std::min(min, percent);
      max = std::max(max, percent);
    }
  if (min > max) return {};
  return min == max ? fmt::format("; costs corrected by {:.0f} %", min)
                    : fmt::format("; costs corrected by {:.0f} to {:.0f} %", min, max);
}

std::vector<std::string> condition_lines(const About& about) {
  const MachineCondition& quiet = about.quiet;
  if (!quiet.fast_ns || !quiet.slowness)
    return {"machine slowdown unknown: no probes were recorded, so a slow machine looks like a slow variant"};
  std::vector<std::string> lines{fmt::format("machine slowdown {} (probe at full speed {} us){}",
                                             ratio_text(*quiet.slowness), three_digits(*quiet.fast_ns * 1e-3),
                                             correction_text(about))};
  if (quiet.busy_cores && quiet.stolen_share)
    lines.push_back(fmt::format("{} cores busy on average, {} of the time taken by the host",
                                three_digits(*quiet.busy_cores), percent_text(*quiet.stolen_share)));
  return lines;
}

std::vector<std::string> spent_lines(const About& about) {
  if (!about.spent) return {};
  const TimeSpent& spent = *about.spent;
  const auto share = [&](double part_s) { return three_digits(100 * part_s / spent.whole_s) + " %"; };
  std::string text =
      fmt::format("measuring took {} s: frames {}, warm-up {}, set-up {}, probes {}, checks and range finding {}",
                  three_digits(spent.whole_s), share(spent.frames_s), share(spent.settling_s), share(spent.set_up_s),
                  share(spent.yardstick_s), share(spent.before_s));
  if (spent.lost_s > 0) text += fmt::format(", failed runs {}", share(spent.lost_s));
  text += fmt::format(", processes and other {}", share(spent.rest_s));
  std::vector<std::string> lines{text};
  if (spent.overhead_ms)
    lines.push_back(fmt::format("starting, setting up and ending a process takes {} ms; no part of any cost",
                                three_digits(*spent.overhead_ms)));
  return lines;
}

std::vector<std::string> cold_lines(const About& about) {
  std::set<double> sizes;
  for (const NamedSeries& one : about.series)
    if (one.series.is_cold()) sizes.insert(one.series.cold_bytes);
  std::vector<std::string> lines;
  for (const double bytes : sizes) lines.push_back(cold_text(bytes, about.head.machine));
  return lines;
}

std::vector<std::string> origin_lines(const Head& head) {
  if (head.made_by == MadeBy::tables) return {"recorded elsewhere: machine and build unknown"};
  const Build& build = head.scenario.build;
  std::string how = "build unknown";
  if (head.made_by == MadeBy::commands)
    how = fmt::format("commands: {}", fmt::join(head.commands, "; "));
  else if (build.known)
    how = fmt::format("compiler {}{}{}", build.compiler, build.flags.empty() ? "" : ", " + build.flags,
                      build.optimized ? "" : ", NOT OPTIMIZED");
  return {machine_text(head.machine), how};
}

}  // namespace mileage
