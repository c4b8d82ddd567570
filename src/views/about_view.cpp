#include "views/about_view.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/notation.h"
#include "views/words.h"

namespace mileage {
namespace {

std::string cold_text(double cold_bytes, const Machine& machine) {
  std::string text = fmt::format("cold {}: walked between frames, outside their time", bytes_text(cold_bytes));
  for (const auto& [name, bytes] : machine.cache_bytes)
    text += fmt::format("; {} {} ({})", cold_bytes > bytes ? "more than" : "less than", name, memory_text(bytes));
  if (!machine.cache_bytes.empty() && cold_bytes <= machine.cache_bytes.rbegin()->second) text += ", which stays warm";
  return text;
}

}  // namespace

std::string preamble(const About& about) {
  std::string text;
  for (const std::string& line : failure_lines(about.failures, about.axis)) text += "! failed: " + line + "\n";
  for (const std::string& warning : about.warnings) text += "! " + warning + "\n";
  return text.empty() ? text : text + "\n";
}

std::string evidence_line(const About& about) {
  const Quietness& quiet = about.quiet;
  std::string text = evidence_text(about);
  if (quiet.condemned > 0) text += fmt::format(", {} left out", quiet.condemned);
  if (quiet.slowness) text += fmt::format("; the machine at {} times its fast level", three_digits(*quiet.slowness));
  return text + "  (--more)\n";
}

std::string evidence_footer(const About& about) {
  std::string text;
  for (const std::string& line : cold_lines(about)) text += line + "\n";
  text += evidence_text(about) + "\n";
  for (const std::string& line : quietness_lines(about)) text += line + "\n";
  for (const std::string& line : spent_lines(about)) text += line + "\n";
  for (const std::string& line : origin_lines(about.head)) text += line + "\n";
  return text;
}

std::vector<std::string> failure_lines(const std::vector<Failure>& failures, const Axis& axis, std::size_t most) {
  struct Alike {
    const Failure* first;
    std::set<double> at;
    std::size_t visits = 0;
  };
  std::vector<Alike> kinds;
  for (const Failure& failure : failures) {
    auto kind = std::find_if(kinds.begin(), kinds.end(), [&](const Alike& one) {
      return one.first->label == failure.label && one.first->reason == failure.reason;
    });
    if (kind == kinds.end()) kind = kinds.insert(kinds.end(), {&failure, {}, 0});
    kind->at.insert(failure.x);
    ++kind->visits;
  }
  std::vector<std::string> lines;
  for (const Alike& kind : kinds) {
    if (lines.size() == most) {
      lines.push_back(fmt::format("... and {} more of other kinds", kinds.size() - most));
      break;
    }
    std::vector<std::string> places;
    for (const double x : kind.at) places.push_back(place_text(x, axis));
    lines.push_back(fmt::format("{} at {}{}: {}", kind.first->label, fmt::join(places, ", "),
                                kind.visits > 1 ? fmt::format(" ({} visits)", kind.visits) : "", kind.first->reason));
  }
  return lines;
}

std::string evidence_text(const About& about) {
  return fmt::format("{}: {} block{}, {} visit{}{}", about.study, about.blocks, about.blocks == 1 ? "" : "s",
                     about.visits, about.visits == 1 ? "" : "s",
                     about.failures.empty() ? "" : fmt::format(", {} failed", about.failures.size()));
}

/// "; costs brought to that level: 3 to 12 % taken off".
std::string adjusted_text(const About& about) {
  double least = HUGE_VAL;
  double most = -HUGE_VAL;
  for (const NamedSeries& one : about.series)
    if (one.adjusted) {
      const double percent = std::round(100 * one.adjusted->taken_off) + 0.0;  // no -0
      least = std::min(least, percent);
      most = std::max(most, percent);
    }
  if (least > most) return {};
  return fmt::format("; costs brought to that level: {:.0f} to {:.0f} % taken off", least, most);
}

std::vector<std::string> quietness_lines(const About& about) {
  const Quietness& quiet = about.quiet;
  if (!quiet.fast_ns || !quiet.slowness)
    return {"no yardstick was taken beside these visits: a slow machine cannot be told from a slow variant"};
  const std::string level =
      fmt::format("the machine took {} times its fast level (yardstick {} us){}", three_digits(*quiet.slowness),
                  three_digits(*quiet.fast_ns * 1e-3), adjusted_text(about));
  const std::string load = quiet.busy_cores && quiet.stolen_share
                               ? fmt::format("{} cores busy, {} % stolen", three_digits(*quiet.busy_cores),
                                             three_digits(100 * *quiet.stolen_share))
                               : "load not known";
  return {level, fmt::format("{} of {} visits disturbed, left out or repeated; {}", quiet.condemned,
                             quiet.condemned + quiet.kept, load)};
}

std::string machine_line(const About& about) {
  return fmt::format("{}: {}\n", about.study, origin_lines(about.head).front());
}

std::vector<std::string> spent_lines(const About& about) {
  if (!about.spent) return {};
  const TimeSpent& spent = *about.spent;
  const auto share = [&](double part_s) { return three_digits(100 * part_s / spent.whole_s) + " %"; };
  std::string text = fmt::format(
      "measuring took {} s: measured frames {}, frames until they settled {}, set-up {}, "
      "yardstick {}, checks and placing {}",
      three_digits(spent.whole_s), share(spent.frames_s), share(spent.settling_s), share(spent.set_up_s),
      share(spent.yardstick_s), share(spent.before_s));
  if (spent.lost_s > 0) text += fmt::format(", failed visits {}", share(spent.lost_s));
  text += fmt::format(", processes and the rest {}", share(spent.rest_s));
  std::vector<std::string> lines{text};
  if (spent.besides_frames_ms)
    lines.push_back(fmt::format("a process takes {} ms besides its frames: start, set-up and end; no part of any cost",
                                three_digits(*spent.besides_frames_ms)));
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
  if (head.made_by == MadeBy::tables) return {"recorded elsewhere: nothing is known of the machine and the build"};
  const Build& build = head.scenario.build;
  std::string how = "build unknown";
  if (head.made_by == MadeBy::commands)
    how = fmt::format("commands: {}", fmt::join(head.commands, "; "));
  else if (build.known)
    how = fmt::format("compiler {}{}{}", build.compiler, build.flags.empty() ? "" : ", " + build.flags,
                      build.optimised ? "" : ", NOT OPTIMISED");
  return {machine_text(head.machine), how};
}

}  // namespace mileage
