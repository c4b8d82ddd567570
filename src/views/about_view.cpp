#include "views/views.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/evidence/labels.h"
#include "types/notation.h"
#include "views/words.h"

namespace mileage {
namespace {

/// Smaller slowdowns are not mentioned.
constexpr double min_slowness_named = 1.005;

std::string cold_text(double cold_bytes, const Machine& machine) {
  std::string text = fmt::format("cold {}: read between frames, outside their time", bytes_text(cold_bytes));
  for (const auto& [name, bytes] : machine.cache_bytes)
    text += fmt::format("; {} {} ({})", cold_bytes > bytes ? "more than" : "less than", name, memory_text(bytes));
  if (!machine.cache_bytes.empty() && cold_bytes <= machine.cache_bytes.rbegin()->second) text += ", which stays warm";
  return text;
}

const char* verdict_name(AgreementVerdict verdict) {
  switch (verdict) {
    case AgreementVerdict::unchecked:
      return "unchecked";
    case AgreementVerdict::agrees:
      return "agrees";
    case AgreementVerdict::approximate:
      return "approximate";
    case AgreementVerdict::differs:
      return "differs";
    case AgreementVerdict::unstable:
      return "unstable";
  }
  return "";
}

Column hidden(const char* name, Format format, const char* meaning) { return {name, "", format, meaning}; }

Column hidden_place(const About& about) { return hidden(about.axis.name.c_str(), Format::place, "place on the axis"); }

Table failures_table(const About& about) {
  Table table(about, "failures", "",
              {hidden_series_column(), hidden_place(about),
               hidden("block", Format::whole, "block, from 0; -1 before the first"),
               hidden("reason", Format::text, "why the run failed")});
  for (const Failure& one : about.failures) table.row({one.label, one.x, one.block, one.reason});
  return table;
}

Table bounds_table(const About& about) {
  Table table(about, "bounds", "",
              {hidden_series_column(), hidden_place(about),
               hidden("at_most_ms", Format::number, "the frame takes no longer, ms"),
               hidden("reason", Format::text, "why no more is known")});
  for (const Bound& one : about.bounds) table.row({one.label, one.x, one.at_most_ms, one.reason});
  return table;
}

Table agreement_table(const About& about) {
  Table table(
      about, "agreement", "",
      {hidden_series_column(), hidden("verdict", Format::text, "agrees, approximate, differs, unstable or unchecked"),
       hidden("largest_error", Format::percent, "largest relative difference of a quantity from the reference"),
       hidden("quantity", Format::text, "quantity that differs most, by its tolerance"),
       hidden("expected", Format::number, "its value in the reference"),
       hidden("found", Format::number, "its value here"),
       hidden("tolerance", Format::number, "accepted relative difference"),
       hidden("worst_count", Format::whole, "count at which it differs"),
       hidden("varied", Format::text, "knobs set otherwise in that run"),
       hidden("pixels_differ", Format::percent, "share of pixels that differ from the reference"),
       hidden("pixel_error", Format::percent, "mean difference of pixels")});
  for (const Agreement& one : about.agreements) {
    std::vector<std::string> varied;
    for (const auto& [name, value] : one.varied.values()) varied.push_back(name + "=" + text_of(value));
    const auto of_worst = [&](auto value) { return one.worst ? Entry(value(*one.worst)) : absent(); };
    Entry series(label_of(one.series, about.head.plan.series));
    series.variant = one.series.variant;
    table.row({series, verdict_name(one.verdict), one.largest_error,
               of_worst([](const Disagreement& worst) { return worst.quantity; }),
               of_worst([](const Disagreement& worst) { return worst.expected; }),
               of_worst([](const Disagreement& worst) { return worst.found; }),
               of_worst([](const Disagreement& worst) { return worst.tolerance; }),
               one.worst ? Entry(one.count) : absent(), fmt::format("{}", fmt::join(varied, " ")),
               one.picture ? Entry(one.picture->pixels) : absent(), one.picture ? Entry(one.picture->mean) : absent()});
  }
  return table;
}

Table machine_table(const About& about) {
  Table table(about, "machine_condition", "",
              {hidden("runs_kept", Format::whole, "runs that answers rest on"),
               hidden("runs_discarded", Format::whole, "runs that were disturbed"),
               hidden("slowdown", Format::number, "mean slowdown during the runs; 1 at full speed"),
               hidden("full_speed_ns", Format::number, "probe time at full speed, ns"),
               hidden("remembered_full_speed_ns", Format::number, "the same from earlier studies, ns"),
               hidden("slow_throughout", Format::flag, "no run was near full speed"),
               hidden("busy_cores", Format::number, "cores busy on average"),
               hidden("stolen_share", Format::percent, "share of the time taken by the host")});
  const MachineCondition& is = about.quiet;
  table.row({is.kept, is.condemned, is.slowness, is.fast_ns, is.remembered_ns, is.slow_throughout, is.busy_cores,
             is.stolen_share});
  return table;
}

Table corrections_table(const About& about) {
  Table table(
      about, "corrections", "",
      {hidden_series_column(), hidden("corrected_by", Format::percent, "share subtracted from its times, on average")});
  for (std::size_t i = 0; i < about.series.size(); ++i)
    if (const auto& by = about.series[i].corrected_by) table.row({series_entry(about, i), *by});
  return table;
}

Table time_table(const About& about) {
  Table table(
      about, "time_spent", "",
      {hidden("whole_s", Format::number, "time of the study, s"),
       hidden("frames_s", Format::number, "measured frames, s"),
       hidden("warm_up_s", Format::number, "frames before them, s"), hidden("setup_s", Format::number, "set-up, s"),
       hidden("probes_s", Format::number, "probes, s"),
       hidden("before_s", Format::number, "checks and range finding, s"),
       hidden("failed_s", Format::number, "failed runs, s"), hidden("rest_s", Format::number, "processes and other, s"),
       hidden("overhead_ms", Format::number, "starting, setting up and ending a process, ms")});
  if (const auto& spent = about.spent)
    table.row({spent->whole_s, spent->frames_s, spent->settling_s, spent->set_up_s, spent->yardstick_s, spent->before_s,
               spent->lost_s, spent->rest_s, spent->overhead_ms});
  return table;
}

}  // namespace

Answer facts_view(const About& about) {
  Answer view;
  view.tables = {failures_table(about), bounds_table(about),      agreement_table(about),
                 machine_table(about),  corrections_table(about), time_table(about)};
  return view;
}

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
    if (one.corrected_by) {
      const double percent = std::round(100 * *one.corrected_by) + 0.0;  // No -0.
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

Table effort_table(const About& about, const std::vector<std::size_t>& series) {
  Table table(about, "effort", "Effort",
              {{"variant", "variant", Format::text, "variant"},
               {"lines", "lines", Format::whole, "lines of code"},
               {"effort", "requires", Format::text, "what it requires of the code around it"}});
  std::set<std::string> listed;
  for (const std::size_t one : series) {
    const std::string& variant = about.series[one].series.variant;
    const VariantFacts* facts = about.head.scenario.find(variant);
    if (facts == nullptr || (facts->effort.empty() && facts->lines == 0) || !listed.insert(variant).second) continue;
    table.row({variant, facts->lines > 0 ? Entry(facts->lines) : absent(), facts->effort});
  }
  return table;
}

Table effort_table(const About& about) {
  std::vector<std::size_t> all(about.series.size());
  std::iota(all.begin(), all.end(), std::size_t{0});
  return effort_table(about, all);
}

}  // namespace mileage
