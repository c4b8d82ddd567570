#include "views/break_even_view.h"

#include <algorithm>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "types/text.h"
#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

std::pair<std::size_t, std::size_t> below_and_above(const ComparedPair& pair, const BreakEven& one) {
  return one.cheaper_below == Side::one ? std::pair{pair.one, pair.other} : std::pair{pair.other, pair.one};
}

/// "410 each of 3 kinds".
std::string divided_text(double count, const Divider& divider) {
  return fmt::format("{} each of {} {}", count_text(count / divider.number), count_text(divider.number),
                     divider.number == 1 ? singular(divider.knob) : divider.knob);
}

std::pair<std::size_t, std::size_t> used_and_replaced(const ComparedPair& pair) {
  return pair.worth_using == Side::one ? std::pair{pair.one, pair.other} : std::pair{pair.other, pair.one};
}

/// Why there is no place from which on either is worth it.
std::string not_worth_reason(const About& about, const ComparedPair& pair) {
  if (pair.too_few_blocks) return "fewer than three blocks hold both";
  if (!pair.told_up_to) return "they share no range of " + about.axis.things;
  return "not enough, told up to " + place_text(*pair.told_up_to, about.axis);
}

Json worth_row(const About& about, const ComparedPair& pair) {
  const auto [used, replaced] = used_and_replaced(pair);
  Json row = row_of(about, used);
  row["instead_of"] = about.label(replaced);
  row[about.axis.name] = pair.worth ? place_json(pair.worth->at, about.axis) : Json(nullptr);
  row["low"] = pair.worth ? place_json(pair.worth->interval.low, about.axis) : Json(nullptr);
  row["high"] = pair.worth ? place_json(pair.worth->interval.high, about.axis) : Json(nullptr);
  row["saves_ms"] = pair.worth ? Json(pair.worth->saves_ms) : Json(nullptr);
  row["saves_ms_at"] = pair.worth ? place_json(pair.worth->range_ends, about.axis) : Json(nullptr);
  if (!pair.worth) row["reason"] = not_worth_reason(about, pair);
  return row;
}

Json break_even_row(const About& about, const ComparedPair& pair, const BreakEven& one) {
  const auto [below_index, above_index] = below_and_above(pair, one);
  const NamedSeries& below = about.series[below_index];
  const NamedSeries& above = about.series[above_index];
  Json row = row_of(about);
  row["cheaper_below"] = below.series.variant;
  row["cheaper_above"] = above.series.variant;
  row["series_below"] = below.label;
  row["series_above"] = above.label;
  row["knobs_below"] = to_json(below.series.knobs);
  row["knobs_above"] = to_json(above.series.knobs);
  row[about.axis.name] = place_json(one.at, about.axis);
  row["low"] = place_json(one.interval.low, about.axis);
  row["high"] = place_json(one.interval.high, about.axis);
  row["even_from"] = place_json(one.even.low, about.axis);
  row["even_to"] = place_json(one.even.high, about.axis);
  if (!one.interval_missing.empty()) row["interval_missing"] = one.interval_missing;
  if (!pair.divider) return row;
  Json& each = row["each"];
  each["of"] = pair.divider->knob;
  each["number"] = pair.divider->number;
  each["count"] = one.at / pair.divider->number;
  return row;
}

Json none_row(const About& about, const ComparedPair& pair) {
  const NamedSeries& one = about.series[pair.one];
  const NamedSeries& other = about.series[pair.other];
  Json row = row_of(about);
  row["variants"] = {one.series.variant, other.series.variant};
  row["series"] = {one.label, other.label};
  row["cheaper"] = nullptr;
  if (pair.answer.cheaper) {
    const NamedSeries& cheaper = *pair.answer.cheaper == Side::one ? one : other;
    row["cheaper"] = cheaper.series.variant;
    row["cheaper_series"] = cheaper.label;
    row["clear_from"] = place_json(pair.answer.clear.low, about.axis);
    row["clear_to"] = place_json(pair.answer.clear.high, about.axis);
    row["share_at_clear_from"] = pair.answer.share_at_lower;
    row["share_at_clear_to"] = pair.answer.share_at_upper;
  }
  row["reason"] = pair.answer.reason;
  return row;
}

}  // namespace

namespace {

/// Whether it is known no better than by the two counts between which a cost jumps.
bool is_inside_jump(const BreakEven& one) { return one.source == Source::step && one.interval.closed(); }

std::string between_text(const BreakEven& one, const About& about) {
  return fmt::format("between {} and {}", place_text(*one.interval.low, about.axis),
                     place_text(*one.interval.high, about.axis));
}

}  // namespace

TextTable break_even_table(const About& about, const BreakEvenAnswer& answer) {
  TextTable table;
  table.column("cheaper below");
  table.column("break-even", Align::right);
  table.column("95 % interval");
  table.column("cheaper above");
  table.column("does not matter between");
  const bool is_divided = std::any_of(answer.pairs.begin(), answer.pairs.end(),
                                      [](const ComparedPair& pair) { return pair.divider.has_value(); });
  if (is_divided) table.column("that is");
  for (const ComparedPair& pair : answer.pairs)
    for (const BreakEven& one : pair.answer.break_evens) {
      const auto [below, above] = below_and_above(pair, one);
      const bool jumps = is_inside_jump(one);
      std::vector<std::string> row{
          about.label(below), jumps ? between_text(one, about) : place_text(one.at, about.axis),
          jumps ? "where the cost jumps" : interval_or_reason(one.interval, about.axis, one.interval_missing),
          about.label(above),
          fmt::format("{} and {}", place_text(*one.even.low, about.axis), place_text(*one.even.high, about.axis))};
      if (is_divided) row.push_back(pair.divider ? divided_text(one.at, *pair.divider) : "");
      table.row(std::move(row));
    }
  return table;
}

TextTable worth_table(const About& about, const BreakEvenAnswer& answer) {
  TextTable table;
  table.column("use");
  table.column("instead of");
  table.column("from", Align::right);
  table.column("95 % interval");
  table.column("saves then");
  for (const ComparedPair& pair : answer.pairs) {
    const auto [used, replaced] = used_and_replaced(pair);
    if (!pair.worth) {
      const bool is_known = !pair.too_few_blocks && pair.told_up_to;
      table.row({about.label(pair.other), about.label(pair.one), is_known ? "nowhere" : "not known", "",
                 not_worth_reason(about, pair)});
      continue;
    }
    table.row({about.label(used), about.label(replaced), place_text(pair.worth->at, about.axis),
               interval_text(pair.worth->interval, about.axis),
               fmt::format("{} at {}", ms_text(pair.worth->saves_ms), place_text(pair.worth->range_ends, about.axis))});
  }
  return table;
}

std::vector<std::string> lines_without_break_even(const About& about, const BreakEvenAnswer& answer) {
  std::vector<std::string> lines;
  for (const ComparedPair& pair : answer.pairs) {
    if (!pair.answer.break_evens.empty()) continue;
    const std::string names = fmt::format("{} and {}", about.label(pair.one), about.label(pair.other));
    if (!pair.answer.cheaper) {
      lines.push_back(fmt::format("{}: {}", names, pair.answer.reason));
      continue;
    }
    const std::size_t cheaper = *pair.answer.cheaper == Side::one ? pair.one : pair.other;
    const bool is_one_place = *pair.answer.clear.low == *pair.answer.clear.high;
    lines.push_back(fmt::format("{}: {} is cheaper {}; it takes {} of the time at {}", names, about.label(cheaper),
                                pair.answer.throughout ? "throughout" : "where it can be told",
                                three_digits(pair.answer.share_at_lower),
                                place_text(*pair.answer.clear.low, about.axis)));
    if (!is_one_place)
      lines.back() += fmt::format(" and {} at {}", three_digits(pair.answer.share_at_upper),
                                  place_text(*pair.answer.clear.high, about.axis));
  }
  return lines;
}

namespace {

constexpr std::size_t most_named = 3;

/// What is said of a place, and where that is: between two, or at one.
struct Said {
  std::string what;
  std::optional<double> after;
  double place = 0;
};

/// "a from 640 lanterns on, b from 1.2k, and 4 more": of each place, the first ones.
std::string from_places(const About& about, const std::vector<Said>& said) {
  std::string text;
  for (std::size_t i = 0; i < std::min(said.size(), most_named); ++i) {
    const std::string after =
        said[i].after ? fmt::format("somewhere between {} and ", place_text(*said[i].after, about.axis)) : "";
    text += i == 0 ? fmt::format("{} from {}{} on", said[i].what, after, named_place(said[i].place, about.axis))
                   : fmt::format(", {} from {}{}", said[i].what, after, place_text(said[i].place, about.axis));
  }
  return said.size() > most_named ? fmt::format("{}, and {} more", text, said.size() - most_named) : text;
}

}  // namespace

std::string break_even_sentence(const About& about, const BreakEvenAnswer& answer) {
  if (answer.pairs.empty()) return "There is only one variant to look at: nothing to compare.";
  std::vector<Said> crossings, worth;
  for (const ComparedPair& pair : answer.pairs) {
    for (const BreakEven& one : pair.answer.break_evens) {
      const auto [below, above] = below_and_above(pair, one);
      crossings.push_back({fmt::format("{} beats {}", about.label(above), about.label(below)), {}, one.at});
      if (!is_inside_jump(one)) continue;
      crossings.back().after = one.interval.low;
      crossings.back().place = *one.interval.high;
    }
    const auto [used, replaced] = used_and_replaced(pair);
    if (pair.worth)
      worth.push_back({fmt::format("{} instead of {}", about.label(used), about.label(replaced)), {}, pair.worth->at});
  }
  if (!crossings.empty()) return fmt::format("Break-even: {}.", from_places(about, crossings));
  const std::string none = fmt::format("No break-even among {} pair{} in the measured range", answer.pairs.size(),
                                       answer.pairs.size() == 1 ? "" : "s");
  return worth.empty() ? none + "." : fmt::format("{}; worth it: {}.", none, from_places(about, worth));
}

std::string break_even_text(const About& about, const BreakEvenAnswer& answer) {
  if (about.only_place)
    return fmt::format(
        "Measured at {} alone: from where on one beats another takes more {}s. Which is cheaper there: {}\n\n",
        named_place(*about.only_place, about.axis), about.axis.name, pasted_command("cost " + shell_word(about.study)));
  std::string text = break_even_sentence(about, answer) + "\n\n";
  const TextTable table = break_even_table(about, answer);
  if (!table.empty()) text += table.text() + "\n";
  const auto lines = lines_without_break_even(about, answer);
  for (const std::string& line : lines) text += "  no break-even: " + line + "\n";
  if (!lines.empty()) text += "\n";
  if (answer.pairs.empty()) return text;
  return text +
         fmt::format("Worth it, saving more than {} a frame, from {} {} on\n\n", ms_text(answer.worth_ms),
                     about.axis.things == about.axis.name ? "this" : "these", about.axis.things) +
         worth_table(about, answer).text() + "\n";
}

void add_break_even_json(Json& json, const About& about, const BreakEvenAnswer& answer) {
  rows_of(json, "break_evens");
  rows_of(json, "none");
  rows_of(json, "worth_from");
  json["worth_ms"] = answer.worth_ms;
  for (const ComparedPair& pair : answer.pairs) {
    json["worth_from"].push_back(worth_row(about, pair));
    for (const BreakEven& one : pair.answer.break_evens)
      json["break_evens"].push_back(break_even_row(about, pair, one));
    if (pair.answer.break_evens.empty()) json["none"].push_back(none_row(about, pair));
  }
}

}  // namespace mileage
