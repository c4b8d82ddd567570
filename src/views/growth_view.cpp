#include "views/views.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/notation.h"
#include "types/text.h"
#include "views/words.h"

namespace mileage {
namespace {

/// Largest / smallest slope that counts as one line.
constexpr double alike_slopes = 1.25;
/// Deviation of a power from 1: an eighth more per entity over a factor of ten.
constexpr double alike_power = 0.05;

bool slopes_are_alike(const NamedLaw& law) {
  const auto [min, max] = std::minmax_element(law.coefficients.begin(), law.coefficients.end());
  return *min > 0 && *max <= alike_slopes * *min;
}

const char* law_name(LawKind kind) {
  switch (kind) {
    case LawKind::constant:
      return "constant";
    case LawKind::linear:
      return "linear";
    case LawKind::n_log_n:
      return "n log n";
    case LawKind::quadratic:
      return "quadratic";
    case LawKind::linear_and_quadratic:
      return "linear and quadratic";
    case LawKind::power:
      return "power";
    case LawKind::one_knee:
      return "linear with a knee";
  }
  return "";
}

/// "linear", "close to linear (N^0.96)", "quadratic".
std::string growth_words(const NamedLaw& law, const Axis& axis) {
  const bool is_alike = law.kind == LawKind::power ? std::fabs(law.exponent - 1) <= alike_power
                        : law.knees.empty()        ? false
                                                   : slopes_are_alike(law);
  switch (law.kind) {
    case LawKind::constant:
      return "constant";
    case LawKind::linear:
      return "linear in " + axis.things;
    case LawKind::n_log_n:
      return "N log N";
    case LawKind::quadratic:
      return "quadratic in " + axis.things;
    case LawKind::linear_and_quadratic:
      return "linear plus quadratic in " + axis.things;
    case LawKind::power:
      return is_alike ? fmt::format("close to linear (N^{:.2f})", law.exponent) : fmt::format("N^{:.2f}", law.exponent);
    case LawKind::one_knee:
      break;
  }
  return is_alike ? "close to linear" : fmt::format("linear with a knee at {}", place_text(law.knees.front(), axis));
}

const char* not_named_text(NotNamed why) {
  switch (why) {
    case NotNamed::named:
      break;
    case NotNamed::too_few_places:
      return "not named: fewer than three counts";
    case NotNamed::too_uncertain:
      return "not named: known no better than 10 %";
    case NotNamed::like_none:
      return "unlike any simple law";
  }
  return "";
}

std::string growth_words(const SeriesGrowth& series, const Axis& axis) {
  if (series.names.empty()) return not_named_text(series.not_named);
  std::vector<std::string> words;
  for (const NamedLaw& law : series.names) words.push_back(growth_words(law, axis));
  return fmt::format("{}", fmt::join(words, " or "));
}

Entry law_cell(const SeriesGrowth& series, const Axis& axis) {
  if (series.names.empty()) return absent(not_named_text(series.not_named));
  std::vector<std::string> laws;
  for (const NamedLaw& law : series.names) laws.push_back(law_text(law, axis));
  return Entry(law_name(series.names.front().kind)).reads(fmt::format("{}", fmt::join(laws, " or ")));
}

std::string ends_text(const SeriesGrowth& series, const Axis& axis) {
  const CurvePoint& first = series.points.front();
  const CurvePoint& last = series.points.back();
  return fmt::format("{} → {} ({} → {})", each_number(first.ms / first.x, axis), each_number(last.ms / last.x, axis),
                     place_text(first.x, axis), place_text(last.x, axis));
}

Table curves_table(const About& about, const GrowthAnswer& answer) {
  Table table(about, "curves", "",
              {series_column(),
               {"law", "growth", Format::text, "law with the smallest deviation"},
               {"exponent", "exponent", Format::number,
                "growth of the cost within 5x of the largest count; 1 is linear", Spread::column},
               {"ends", each_unit(about.axis) + " at both ends", Format::text, "cost per entity at both ends"},
               {"deviation", "deviation", Format::percent, "largest deviation of a measured count from the law"},
               {"fixed_ms", "", Format::number, "fixed cost of the law, ms"},
               {"coefficient_ms", "", Format::number, "first coefficient of the law, ms"},
               {"exponent_at_min", "", Format::number, "the same within 5x of the smallest count"},
               {"setup_ms_at_max", "", Format::number, "set-up at the largest count, ms"}});
  for (std::size_t i = 0; i < answer.series.size(); ++i) {
    const SeriesGrowth& one = answer.series[i];
    const NamedLaw* law = one.names.empty() ? nullptr : &one.names.front();
    table.row({series_entry(about, i),
               law_cell(one, about.axis),
               {one.exponent, one.exponent_interval},
               ends_text(one, about.axis),
               law ? Entry(one.largest_deviation) : absent(),
               law ? Entry(law->fixed_ms) : absent(),
               law && !law->coefficients.empty() ? Entry(law->coefficients[0]) : absent(),
               one.exponent_at_min,
               one.setup_ms_at_max});
  }
  return table;
}

Table knees_table(const About& about, const GrowthAnswer& answer) {
  Table table(about, "knees", "Knees",
              {series_column(),
               {about.axis.name, "at", Format::place, "where the slope changes", Spread::column},
               {"slope_ratio", "change", Format::ratio, "slope above relative to the slope below"},
               {"cache", "cache", Format::text, "cache that is about as large as the entities there"},
               {"knob", "near", Format::text, "knob with about that value"}});
  for (std::size_t i = 0; i < answer.series.size(); ++i)
    for (const Knee& knee : answer.series[i].knees)
      table.row({series_entry(about, i),
                 {knee.at, knee.interval},
                 Entry(knee.slope_ratio()).reads(knee_text(knee.at, knee.slope_below, knee.slope_above, about.axis)),
                 knee.cache.empty() ? absent() : Entry(knee.cache),
                 knee.knob.empty()
                     ? absent()
                     : Entry(knee.knob).reads(fmt::format("{}={}", knee.knob, text_of(KnobValue(knee.knob_value))))});
  return table;
}

Table steps_table(const About& about, const GrowthAnswer& answer) {
  Table table(about, "steps", "Jumps (laws are of the counts without them)",
              {series_column(),
               {"before", "after", Format::place, "largest count before the jump"},
               {"after", "up to", Format::place, "smallest count after it"},
               {"ratio", "cost", Format::ratio, "cost after relative to before", Spread::inside}});
  for (std::size_t i = 0; i < answer.series.size(); ++i)
    for (const CostStep& step : answer.series[i].steps)
      table.row({series_entry(about, i), step.before, step.after, {step.times, step.interval}});
  return table;
}

Table laws_table(const About& about, const GrowthAnswer& answer) {
  Table table(about, "tested_laws", "Laws tested",
              {series_column(),
               {"law", "law", Format::text, "law"},
               {"deviation", "deviation", Format::percent, "largest deviation of a measured count from it"},
               {"fits", "fits", Format::flag, "whether every count is within what is known of the curve, or 3 %"}});
  for (std::size_t i = 0; i < answer.series.size(); ++i)
    for (const TestedLaw& test : answer.series[i].tests)
      table.row({series_entry(about, i), law_name(test.kind), test.deviation, test.fits});
  return table.on_request();
}

/// "objects and records are linear in lanterns; jobs is close to linear (N^0.96)."
std::string growth_sentence(const About& about, const GrowthAnswer& answer) {
  std::vector<std::pair<std::string, std::vector<std::string>>> alike;
  for (std::size_t i = 0; i < answer.series.size(); ++i) {
    const std::string words = growth_words(answer.series[i], about.axis);
    auto same = std::find_if(alike.begin(), alike.end(), [&](const auto& one) { return one.first == words; });
    if (same == alike.end()) same = alike.insert(same, {words, {}});
    same->second.push_back(about.label(i));
  }
  std::vector<std::string> parts;
  for (const auto& [words, labels] : alike)
    parts.push_back(fmt::format("{} {} {}", and_list(labels), labels.size() == 1 ? "is" : "are", words));
  return fmt::format("{}.", fmt::join(parts, "; "));
}

const CurvePoint& best_of(const SeriesGrowth& series) {
  return *std::min_element(series.points.begin(), series.points.end(),
                           [](const CurvePoint& a, const CurvePoint& b) { return a.ms < b.ms; });
}

bool is_surely_slower(const CurvePoint& point, const CurvePoint& best) {
  return point.interval.low && best.interval.high && *point.interval.low > *best.interval.high;
}

/// Over a choice knob: the fastest value.
Answer values_view(const About& about, const GrowthAnswer& answer) {
  Answer view;
  for (std::size_t i = 0; i < answer.series.size(); ++i) {
    const CurvePoint& best = best_of(answer.series[i]);
    const std::string value = text_of(KnobValue(best.x));
    const auto& points = answer.series[i].points;
    const bool is_any_slower =
        std::any_of(points.begin(), points.end(), [&](const CurvePoint& one) { return is_surely_slower(one, best); });
    view.verdict.push_back(fmt::format("{}: {} {} is fastest ({}){}.", about.label(i), about.axis.name, value,
                                       ms_text(best.ms),
                                       is_any_slower ? "" : ", but no difference between values is significant"));
    Table table(about, "values", answer.series.size() > 1 ? about.label(i) : "",
                {hidden_series_column(),
                 {about.axis.name, about.axis.name, Format::number, "value of the knob"},
                 {"ms", "ms/frame", Format::number, "typical frame, ms", Spread::column},
                 {"relative", "relative to the best", Format::ratio, "time relative to the best value"},
                 {"verdict", "verdict", Format::text, "best, slower or inconclusive"}});
    for (const CurvePoint& one : points)
      table.row({series_entry(about, i),
                 typed(one.x),
                 {one.ms, one.interval},
                 one.ms / best.ms,
                 &one == &best                 ? "best"
                 : is_surely_slower(one, best) ? "slower"
                                               : "inconclusive"});
    view.tables.push_back(std::move(table));
  }
  return view;
}

}  // namespace

std::string law_text(const NamedLaw& law, const Axis& axis) {
  const auto per_n = [&](double ms) { return short_time(ms) + " x N"; };
  const std::string fixed = law.fixed_ms > 0 ? short_time(law.fixed_ms) + " + " : "";
  switch (law.kind) {
    case LawKind::constant:
      return short_time(law.fixed_ms);
    case LawKind::linear:
      return fixed + per_n(law.coefficients[0]);
    case LawKind::n_log_n:
      return fixed + per_n(law.coefficients[0]) + " log2 N";
    case LawKind::quadratic:
      return fixed + per_n(law.coefficients[0]) + "^2";
    case LawKind::linear_and_quadratic:
      return fixed + per_n(law.coefficients[0]) + " + " + per_n(law.coefficients[1]) + "^2";
    case LawKind::power:
      return fixed + per_n(law.coefficients[0]) + fmt::format("^{:.2f}", law.exponent);
    case LawKind::one_knee:
      break;
  }
  std::string text = fixed + per_n(law.coefficients[0]);
  for (std::size_t i = 0; i < law.knees.size(); ++i)
    text += ", " + knee_text(law.knees[i], law.coefficients[i], law.coefficients[i + 1], axis);
  return text;
}

std::string knee_text(double at, double slope_below, double slope_above, const Axis& axis) {
  const std::string place = place_text(at, axis);
  if (slope_below <= 0) return "flat below " + place;
  if (slope_above <= 0) return "flat above " + place;
  return fmt::format("{} the slope above {}", ratio_text(slope_above / slope_below), place);
}

Table points_table(const About& about, const GrowthAnswer& answer) {
  Table table(about, "points", "Every count measured",
              {series_column(),
               place_column(about),
               {"ms", "ms/frame", Format::number, "typical frame, ms", Spread::column},
               {"each", each_unit(about.axis), Format::number, "cost per entity, ns"},
               {"runs", "runs", Format::whole, "runs kept"}});
  for (std::size_t i = 0; i < answer.series.size(); ++i)
    for (const CurvePoint& point : answer.series[i].points)
      table.row({series_entry(about, i),
                 point.x,
                 {point.ms, point.interval},
                 point.ms / point.x * each_factor(about.axis),
                 point.runs});
  return table;
}

Answer growth_view(const About& about, const GrowthAnswer& answer) {
  if (about.axis.is_choice) return values_view(about, answer);
  Answer view;
  if (about.only_place) {
    view.verdict.push_back(fmt::format("Everything was measured at {}: growth needs at least three {}s.",
                                       named_place(*about.only_place, about.axis), about.axis.name));
    view.next.push_back(pasted_command("cost " + shell_word(about.study)));
  } else {
    view.verdict.push_back(growth_sentence(about, answer));
    view.tables = {curves_table(about, answer), knees_table(about, answer), steps_table(about, answer)};
  }
  view.tables.push_back(laws_table(about, answer));
  view.tables.push_back(points_table(about, answer).on_request());
  return view;
}

Answer against_view(const About& about, const std::vector<SeriesAgainst>& answer) {
  Answer view;
  for (const SeriesAgainst& one : answer) {
    Table table(about, "relative", about.label(one.series) + " relative to " + about.label(one.against),
                {hidden_series_column(),
                 {"baseline", "", Format::text, "what it is compared with"},
                 place_column(about),
                 {"relative", "relative", Format::ratio,
                  "time relative to the baseline; interval for all counts together", Spread::column},
                 {"saves_ms", "saves ms", Format::number, "ms per frame saved"}});
    for (const SeriesAgainst::Place& place : one.places)
      table.row({series_entry(about, one.series),
                 about.label(one.against),
                 place.x,
                 {place.share, place.interval},
                 place.saves_ms});
    view.tables.push_back(std::move(table));
  }
  return view;
}

}  // namespace mileage
