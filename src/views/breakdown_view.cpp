#include "views/views.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "views/words.h"

namespace mileage {
namespace {

/// For parts named in the verdict.
constexpr double share_of_largest_named = 0.05;

std::string with_sign(double value) { return (value > 0 ? "+" : "") + three_digits(value); }

std::vector<std::string> named_parts(const PairBreakdown& pair) {
  double largest = std::fabs(pair.whole.ms);
  for (const Part& part : pair.phases) largest = std::max(largest, std::fabs(part.ms));
  std::vector<std::string> named;
  for (const Part& part : pair.phases)
    if (std::fabs(part.ms) >= share_of_largest_named * largest)
      named.push_back(fmt::format("{} {}", part.name, with_sign(part.ms)));
  if (pair.outside) named.push_back("outside phases " + with_sign(pair.outside->ms));
  return named;
}

/// "At 100k lanterns mirrored takes 3.1 ms more than columns: gather +2.6, outside phases +0.5."
std::string difference_sentence(const About& about, const PairBreakdown& pair) {
  const std::string& first = about.label(pair.first);
  const std::string& second = about.label(pair.second);
  const bool is_known = pair.whole.is_known() || !pair.whole.interval.closed();
  std::string text = fmt::format("At {} ", named_place(pair.x, about.axis));
  text += is_known ? fmt::format("{} takes {} {} than {}", second, ms_text(std::fabs(pair.whole.ms)),
                                 pair.whole.ms < 0 ? "less" : "more", first)
                   : fmt::format("{} and {} do not differ significantly", first, second);
  const std::vector<std::string> parts = named_parts(pair);
  return parts.empty() ? text + "." : fmt::format("{}: {}.", text, fmt::join(parts, ", "));
}

Table parts_of_difference(const About& about, const PairBreakdown& pair) {
  const std::string& first = about.label(pair.first);
  const std::string& second = about.label(pair.second);
  Table table(about, "difference", fmt::format("Difference at {}, ms/frame", named_place(pair.x, about.axis)),
              {{"first", "", Format::text, "variant compared with"},
               {"second", "", Format::text, "variant compared"},
               {about.axis.name, "", Format::place, "place on the axis"},
               {"kind", "", Format::text, "frame, phase, outside, inner phase or thread"},
               {"part", "part", Format::text, "part of the frame"},
               {"first_ms", first, Format::number, "time per frame of the first, ms"},
               {"second_ms", second, Format::number, "time per frame of the second, ms"},
               {"difference_ms", "difference", Format::number, "second less first, ms per frame", Spread::column},
               {"significant", "", Format::flag, "whether the interval excludes zero"}});
  const auto add = [&](const char* kind, const Part& part, const std::string& name, std::size_t indent) {
    table.row({first, second, pair.x, kind, Entry(name).reads(std::string(2 * indent, ' ') + name), part.first_ms,
               part.second_ms, Entry(part.ms, part.interval).reads(with_sign(part.ms)), part.is_known()});
  };
  add("frame", pair.whole, "frame", 0);
  for (const Part& part : pair.phases) add("phase", part, part.name, 1);
  if (pair.outside) add("outside", *pair.outside, "outside phases", 1);
  for (const Part& part : pair.inside) add("inner phase", part, part.name, 2);
  for (const Part& part : pair.thread)
    if (part.first_ms != 0 || part.second_ms != 0) add("thread", part, part.name, 0);
  return table;
}

Table counters_of_difference(const About& about, const PairBreakdown& pair) {
  const std::string& first = about.label(pair.first);
  const std::string& second = about.label(pair.second);
  Table table(about, "difference_counters", "Counters that differ, per frame and " + about.axis.thing,
              {{"counter", "counter", Format::text, "counter"},
               {"first", "", Format::text, "variant compared with"},
               {"second", "", Format::text, "variant compared"},
               {"first_each", first, Format::number, "per frame and entity of the first"},
               {"second_each", second, Format::number, "per frame and entity of the second"},
               {"expected_each", "expected", Format::number, "what the scenario expects"},
               {"verdict", "verdict", Format::text, "where it is not as expected"}});
  for (const CounterPair& one : pair.counters) {
    const bool is_off = one.first_is_off || one.second_is_off;
    table.row({one.name, first, second, one.of_first, one.of_second, one.expected,
               is_off ? Entry("NOT as expected") : absent()});
  }
  if (pair.page_faults)
    table.row({"page faults per frame", first, second, pair.page_faults->first_ms, pair.page_faults->second_ms,
               absent(), absent()});
  return table;
}

Table floors_table(const About& about, const BreakdownAnswer& answer) {
  Table table(about, "without_phase", "Without one phase",
              {series_column(),
               {"phase", "without", Format::text, "phase that costs nothing"},
               {"phase_ms", "phase ms", Format::number, "time of the phase per frame, ms"},
               {"ms", "ms/frame then", Format::number, "frame without it, ms", Spread::inside},
               {"capacity", fmt::format("capacity in {}", ms_text(answer.budget_ms)), Format::place,
                "largest number within the budget without it", Spread::inside},
               {"measured", "", Format::flag, "by a variant that leaves it out; else the frame less its phase"}});
  for (const PhaseFloor& one : answer.floors)
    table.row({series_entry(about, one.series),
               one.phase,
               one.phase_ms,
               {one.floor_ms, one.floor_interval},
               capacity_cell(about, one.capacity),
               one.is_measured});
  return table;
}

}  // namespace

Answer breakdown_view(const About& about, const BreakdownAnswer& answer) {
  Answer view;
  for (const PairBreakdown& pair : answer.pairs) {
    view.verdict.push_back(difference_sentence(about, pair));
    view.tables.push_back(parts_of_difference(about, pair));
    view.tables.push_back(counters_of_difference(about, pair));
    if (pair.phases.empty())
      view.note(
          "no phases were recorded: frame.phase(\"name\") in the code, or a column phase:NAME, shows where the "
          "difference is.");
  }
  for (const std::string& pair : answer.not_measured_together)
    view.note(fmt::format("{} were never measured at the same {}.", pair, about.axis.name));
  view.tables.push_back(floors_table(about, answer));
  return view;
}

}  // namespace mileage
