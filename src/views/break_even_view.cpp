#include "views/views.h"

#include <algorithm>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/text.h"
#include "views/words.h"

namespace mileage {
namespace {

struct Switch {
  std::size_t from, to;
};

Switch paid_switch(const ComparedPair& pair) {
  return pair.paying_side == Side::one ? Switch{pair.other, pair.one} : Switch{pair.one, pair.other};
}

Switch crossing(const ComparedPair& pair, const BreakEven& one) {
  return one.faster_below == Side::one ? Switch{pair.one, pair.other} : Switch{pair.other, pair.one};
}

/// Known only to within the counts around a step.
bool is_inside_jump(const BreakEven& one) { return one.source == Source::step && one.interval.closed(); }

std::string clear_range(const About& about, const Interval& clear) {
  return *clear.low == *clear.high
             ? "at " + place_text(*clear.low, about.axis)
             : fmt::format("from {} to {}", place_text(*clear.low, about.axis), place_text(*clear.high, about.axis));
}

std::string ratios_text(const PairAnswer& answer) {
  const std::string low = ratio_text(answer.share_at_lower), high = ratio_text(answer.share_at_upper);
  return low == high ? low : fmt::format("{} to {}", low, high);
}

std::string uncrossed_text(const About& about, const ComparedPair& pair) {
  if (!pair.answer.faster) return pair.answer.reason;
  const bool is_one = *pair.answer.faster == Side::one;
  return fmt::format("{} is faster {}: {} of {}", about.label(is_one ? pair.one : pair.other),
                     pair.answer.throughout ? "throughout" : clear_range(about, pair.answer.clear),
                     ratios_text(pair.answer), about.label(is_one ? pair.other : pair.one));
}

std::string unpaid_text(const About& about, const ComparedPair& pair) {
  if (!pair.known_up_to) return "unknown: no range of " + about.axis.things + " in common";
  const std::string up_to = " up to " + place_text(*pair.known_up_to, about.axis);
  return pair.answer.faster || !pair.answer.break_evens.empty() ? "at no count" + up_to
                                                                : "no significant difference" + up_to;
}

Table paid_table(const About& about, const BreakEvenAnswer& answer) {
  Table table(about, "pays_off", fmt::format("Pays off (saves more than {})", ms_text(answer.min_saving_ms)),
              {{"switch_from", "switch from", Format::text, "variant in use"},
               {"switch_to", "to", Format::text, "variant to switch to"},
               {about.axis.name, "from", Format::place, "from here on the switch saves more than min_saving_ms",
                Spread::column},
               {"saves_ms", "saves ms", Format::number, "time saved per frame at the end of the range, ms"},
               {"saves_at", "at", Format::place, "end of the range"},
               {"min_saving_ms", "", Format::number, "least saving that pays off, ms per frame"}});
  for (const ComparedPair& pair : answer.pairs) {
    const Switch one = paid_switch(pair);
    if (pair.worth) {
      table.row({about.label(one.from),
                 about.label(one.to),
                 {pair.worth->at, pair.worth->interval},
                 pair.worth->saves_ms,
                 pair.worth->range_ends,
                 answer.min_saving_ms});
      continue;
    }
    Entry none = absent("-");
    none.missing = unpaid_text(about, pair);
    table.row(
        {about.label(pair.one), about.label(pair.other), std::move(none), absent(), absent(), answer.min_saving_ms});
  }
  return table;
}

/// "410 each of 3 kinds".
std::string divided_text(double count, const Divider& divider) {
  return fmt::format("{} each of {} {}", count_text(count / divider.number), count_text(divider.number),
                     divider.number == 1 ? singular(divider.knob) : divider.knob);
}

Table crossings_table(const About& about, const BreakEvenAnswer& answer) {
  Table table(
      about, "crossings", "Curves that cross",
      {{"faster_below", "faster below", Format::text, "variant that is faster below"},
       {about.axis.name, "crosses at", Format::place, "where the two cost the same", Spread::column},
       {"faster_above", "faster above", Format::text, "variant that is faster above"},
       {"even", "no difference between", Format::text, "where the difference is not significant or does not pay"},
       {"even_from", "", Format::place, "start of that range"},
       {"even_to", "", Format::place, "end of that range"},
       {"divided", "that is", Format::text, "count for each value of the knob that splits the count"}});
  for (const ComparedPair& pair : answer.pairs)
    for (const BreakEven& one : pair.answer.break_evens) {
      const Switch at = crossing(pair, one);
      table.row(
          {about.label(at.from),
           {one.at, one.interval},
           about.label(at.to),
           fmt::format("{} and {}", place_text(*one.even.low, about.axis), place_text(*one.even.high, about.axis)),
           *one.even.low,
           *one.even.high,
           pair.divider ? Entry(divided_text(one.at, *pair.divider)) : absent()});
    }
  return table;
}

Table uncrossed_table(const About& about, const BreakEvenAnswer& answer) {
  Table table(about, "no_crossing", "Curves that do not cross",
              {{"one", "", Format::text, "first of the pair"},
               {"other", "", Format::text, "second of the pair"},
               {"pair", "pair", Format::text, "the pair"},
               {"result", "result", Format::text, "what is the case instead"},
               {"faster", "", Format::text, "the faster one, where that is significant"},
               {"faster_from", "", Format::place, "start of the range where it is"},
               {"faster_to", "", Format::place, "end of that range"},
               {"ratio_from", "", Format::ratio, "its time relative to the other's at the start"},
               {"ratio_to", "", Format::ratio, "and at the end"}});
  for (const ComparedPair& pair : answer.pairs) {
    if (!pair.answer.break_evens.empty()) continue;
    const bool is_known = pair.answer.faster.has_value();
    const std::size_t faster = pair.answer.faster == Side::other ? pair.other : pair.one;
    const auto known = [&](Entry cell) { return is_known ? std::move(cell) : absent(); };
    table.row({about.label(pair.one), about.label(pair.other),
               fmt::format("{} and {}", about.label(pair.one), about.label(pair.other)), uncrossed_text(about, pair),
               known(about.label(faster)), known(pair.answer.clear.low), known(pair.answer.clear.high),
               known(pair.answer.share_at_lower), known(pair.answer.share_at_upper)});
  }
  return table;
}

/// "columns at 9.3k lanterns".
std::string switch_words(const About& about, const ComparedPair& pair, bool is_first) {
  const Switch one = paid_switch(pair);
  const std::string at = is_first ? named_place(pair.worth->at, about.axis) : place_text(pair.worth->at, about.axis);
  return fmt::format("from {} to {} at {}", about.label(one.from), about.label(one.to), at);
}

std::vector<std::string> crossing_sentences(const About& about, const BreakEvenAnswer& answer) {
  std::vector<std::string> words;
  for (const ComparedPair& pair : answer.pairs)
    for (const BreakEven& one : pair.answer.break_evens) {
      const Switch at = crossing(pair, one);
      const std::string where = is_inside_jump(one)
                                    ? fmt::format("between {} and {}", typed_count(*one.interval.low, about.axis),
                                                  typed_count(*one.interval.high, about.axis))
                                    : "at " + named_place(one.at, about.axis);
      words.push_back(fmt::format("{} overtakes {} {}", about.label(at.to), about.label(at.from), where));
    }
  return words;
}

constexpr std::size_t max_named = 3;

}  // namespace

std::string break_even_sentence(const About& about, const BreakEvenAnswer& answer) {
  if (answer.pairs.empty()) return "There is only one variant: nothing to compare.";
  std::vector<std::string> switches;
  for (const ComparedPair& pair : answer.pairs)
    if (pair.worth) switches.push_back(switch_words(about, pair, switches.empty()));
  const std::vector<std::string> crossings = crossing_sentences(about, answer);
  std::string text = switches.empty() ? fmt::format("No switch pays off at any {} measured.", about.axis.name)
                                      : fmt::format("Switch {}.", listed(switches, ", ", max_named));
  if (!crossings.empty())
    text += fmt::format(" {}.", listed(crossings, "; ", max_named));
  else if (switches.empty())
    text += answer.pairs.size() == 1 ? " The curves do not cross." : " No curves cross.";
  return text;
}

Answer break_even_view(const About& about, const BreakEvenAnswer& answer) {
  Answer view;
  if (about.only_place) {
    view.verdict.push_back(fmt::format("Everything was measured at {}: a break-even needs at least three {}s.",
                                       named_place(*about.only_place, about.axis), about.axis.name));
    view.next.push_back(pasted_command("cost " + shell_word(about.study)));
    return view;
  }
  view.verdict.push_back(break_even_sentence(about, answer));
  view.tables = {paid_table(about, answer), crossings_table(about, answer), uncrossed_table(about, answer)};
  return view;
}

}  // namespace mileage
