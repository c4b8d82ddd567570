#include "views/views.h"

#include <cmath>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "views/words.h"

namespace mileage {
namespace {

/// Which of both to improve first; may be empty.
std::string improve_words(const About& about, const SharedFrameAnswer& answer, const SharedSeries& one) {
  if (!one.improve || !one.improve->now) return {};
  const auto place = [&](const std::optional<double>& x) {
    return x ? place_text(*x, about.axis) : "more than measured";
  };
  const Improvement& improve = *one.improve;
  const std::string& label = about.label(one.series);
  const bool own_first = improve.own_halved.value_or(HUGE_VAL) >= improve.other_halved.value_or(HUGE_VAL);
  return fmt::format("improve {} first: halving {} gives {}, halving {} gives {}.",
                     own_first ? label : answer.other_scenario, label, place(improve.own_halved), answer.other_scenario,
                     place(improve.other_halved));
}

Table with_rest_table(const About& about, const SharedFrameAnswer& answer, bool asked) {
  Table table(about, asked ? "with_rest_at" : "with_rest",
              fmt::format("{} that fit {} next to {}", about.axis.things, ms_text(answer.budget_ms), answer.other),
              {{"other_count", answer.other_things, Format::text, "number of the other system's entities"},
               {"series", "variant", Format::series, "variant, with the settings in which it differs"},
               {"other_ms", "", Format::number, "time that the other system takes, ms per frame"},
               {"budget_ms", "", Format::number, "frame budget, ms"},
               {"capacity", "capacity", Format::place, "largest number that fits next to it", Spread::inside}});
  for (const SharedSeries& one : answer.series) {
    const auto add = [&](const BesideOther& beside) {
      table.row(
          {Entry(beside.other_x).reads(fmt::format("{} ({})", count_text(beside.other_x), ms_text(beside.other.ms))),
           series_entry(about, one.series), beside.other.ms, answer.budget_ms, capacity_cell(about, beside.capacity)});
    };
    if (asked && one.asked) add(*one.asked);
    if (!asked)
      for (const BesideOther& beside : one.map) add(beside);
  }
  return table.pivoted("other_count", "series", "capacity");
}

Table improve_table(const About& about, const SharedFrameAnswer& answer) {
  Table table(about, "improve", "If one of both took half",
              {series_column(),
               {"now", "now", Format::place, "capacity next to the other system"},
               {"own_halved", "own time halved", Format::place, "capacity at half its own time"},
               {"other_halved", "other's time halved", Format::place, "capacity at half the other system's time"}});
  for (const SharedSeries& one : answer.series)
    if (const auto& improve = one.improve)
      table.row({series_entry(about, one.series), improve->now, improve->own_halved, improve->other_halved});
  return table.on_request();
}

}  // namespace

Answer shared_frame_view(const About& about, const SharedFrameAnswer& answer) {
  Answer view;
  std::vector<std::string> words;
  double other_ms = 0;
  for (const SharedSeries& one : answer.series) {
    if (!one.asked) continue;
    other_ms = one.asked->other.ms;
    const std::optional<double>& at = one.asked->capacity.at;
    words.push_back(fmt::format("{} {}", about.label(one.series),
                                at                                                     ? place_text(*at, about.axis)
                                : one.asked->capacity.none == NoCapacity::over_at_once ? "none"
                                                                                       : "more than measured"));
    if (const std::string improve = improve_words(about, answer, one); !improve.empty())
      view.note(fmt::format("{}: {}", about.label(one.series), improve));
  }
  if (!words.empty())
    view.verdict.push_back(fmt::format("Next to {} {} of {} ({}): {} {}.", count_text(*answer.other_at),
                                       answer.other_things, answer.other, ms_text(other_ms),
                                       fmt::format("{}", fmt::join(words, ", ")), about.axis.things));
  view.tables.push_back(with_rest_table(about, answer, true).on_request());
  view.tables.push_back(improve_table(about, answer));
  view.tables.push_back(with_rest_table(about, answer, false));
  return view;
}

}  // namespace mileage
