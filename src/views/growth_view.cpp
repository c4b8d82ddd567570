#include "views/growth_view.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "study/csv_reader.h"
#include "types/notation.h"
#include "types/text.h"
#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

/// A smaller deviation is a matter of rounding.
constexpr double least_deviation_told = 1e-5;
/// Slopes of which the largest is at most so many times the smallest are nearly one.
constexpr double alike_slopes = 1.25;
/// A power this close to one takes an eighth more for each entity over a factor of ten.
constexpr double alike_power = 0.05;

/// One power describes no curve whose slope at both ends is another one.
bool varies(const SeriesGrowth& series) {
  if (!series.exponent || !series.exponent_at_min || !series.exponent_at_max) return false;
  const auto [least, most] = std::minmax(*series.exponent_at_min, *series.exponent_at_max);
  return series.exponent_interval.low.value_or(*series.exponent) > most ||
         series.exponent_interval.high.value_or(*series.exponent) < least;
}

std::string exponent_text(const SeriesGrowth& series) {
  if (varies(series)) return "varies";
  return series.exponent ? with_range(*series.exponent, series.exponent_interval) : "?";
}

double each_ns(const CurvePoint& point) { return point.ms * 1e6 / point.x; }

/// What the points say where a law says it only roughly.
std::string large_end_text(const SeriesGrowth& series) {
  return series.exponent_of_points
             ? fmt::format("; at the large end: exponent {}", three_digits(*series.exponent_of_points))
             : "";
}

std::string law_words(const About& about, const SeriesGrowth& series) {
  if (!series.law)
    return series.not_tested != NotTested::tested ? not_tested_text(series.not_tested)
                                                  : "no law comes within 20 % of every point" + large_end_text(series);
  const std::string within = series.largest_deviation < least_deviation_told
                                 ? "; through every point"
                                 : fmt::format("; within {} of every point", percent_text(series.largest_deviation));
  const std::string laws = laws_text(series.names, about.axis);
  return series.named_by == NamedBy::noise ? laws + within : "about: " + laws + within + large_end_text(series);
}

Json coefficients_json(const std::optional<NamedLaw>& law) {
  Json json = Json::object();
  if (!law) return json;
  json["fixed_ms"] = law->fixed_ms;
  if (law->kind != LawKind::constant) json["per_unit_ms"] = law->coefficients;
  if (law->kind == LawKind::power) json["exponent"] = law->exponent;
  return json;
}

Json knee_json(const Knee& knee, const Axis& axis) {
  Json json;
  json[axis.name] = knee.at;
  add_interval(json, knee.interval);
  json["slope_ratio"] = optional_json(knee.slope_ratio());
  json["cache"] = knee.cache;
  json["knob"] = knee.knob;
  return json;
}

Json step_json(const CostStep& step, const Axis& axis) {
  Json json;
  json["before"] = place_json(step.before, axis);
  json["after"] = place_json(step.after, axis);
  json["times"] = step.times;
  add_interval(json, step.interval);
  return json;
}

Json test_json(const TestedLaw& test) {
  Json json;
  json["law"] = law_name(test.kind);
  json["left_out_error"] = optional_json(test.left_out_error);
  json["p_value"] = test.p_value;
  json["rejected"] = test.rejected;
  return json;
}

Json point_json(const CurvePoint& point, const Axis& axis) {
  Json json;
  json[axis.name] = place_json(point.x, axis);
  json["ms"] = point.ms;
  add_interval(json, point.interval);
  json["visits"] = point.visits;
  return json;
}

Json named_by_json(NamedBy by) {
  switch (by) {
    case NamedBy::nothing:
      return nullptr;
    case NamedBy::noise:
      return "noise";
    case NamedBy::quirks:
      return "noise and quirks of 3 %";
    case NamedBy::near:
      return "within 10 %";
    case NamedBy::rough:
      return "within 20 %";
  }
  return nullptr;
}

Json curve_row(const About& about, std::size_t series, const SeriesGrowth& growth) {
  Json row = row_of(about, series);
  row["law"] = growth.law ? Json(law_name(growth.law->kind)) : Json(nullptr);
  row["named_by"] = named_by_json(growth.named_by);
  row["largest_deviation"] = growth.law ? Json(growth.largest_deviation) : Json(nullptr);
  row["exponent"]["value"] = optional_json(growth.exponent);
  add_interval(row["exponent"], growth.exponent_interval);
  Json& same = rows_of(row, "cannot_tell");
  if (growth.names.size() > 1)
    for (const NamedLaw& law : growth.names) same.push_back(law_name(law.kind));
  Json& knees = rows_of(row, "knees");
  for (const Knee& knee : growth.knees) knees.push_back(knee_json(knee, about.axis));
  Json& steps = rows_of(row, "steps");
  for (const CostStep& step : growth.steps) steps.push_back(step_json(step, about.axis));
  row["exponent_at_min_count"] = optional_json(growth.exponent_at_min);
  row["exponent_at_max_count"] = optional_json(growth.exponent_at_max);
  row["exponent_of_points_at_max_count"] = optional_json(growth.exponent_of_points);
  row["coefficients"] = coefficients_json(growth.law);
  if (growth.not_tested != NotTested::tested) row["reason"] = not_tested_text(growth.not_tested);
  Json& laws = rows_of(row, "laws");
  for (const TestedLaw& test : growth.tests) laws.push_back(test_json(test));
  row["setup_ms_at_max_count"] = optional_json(growth.setup_ms_at_max);
  Json& points = rows_of(row, "points");
  for (const CurvePoint& point : growth.points) points.push_back(point_json(point, about.axis));
  return row;
}

/// Whether the slopes beside knees differ so little that whoever plans by counts need not care.
bool slopes_are_alike(const NamedLaw& law) {
  const auto [least, most] = std::minmax_element(law.coefficients.begin(), law.coefficients.end());
  return *least > 0 && *most <= alike_slopes * *least;
}

}  // namespace

std::string law_text(const NamedLaw& law, const Axis& axis) {
  const auto each = [&](double ms) { return each_text(ms, axis); };
  const std::string fixed = law.fixed_ms > 0 ? fmt::format("{} fixed + ", ms_text(law.fixed_ms)) : "no fixed cost, ";
  switch (law.kind) {
    case LawKind::constant:
      return fmt::format("constant: {} at any {}", ms_text(law.fixed_ms), axis.name);
    case LawKind::linear:
      return fmt::format("grows in proportion: {}{}", fixed, each(law.coefficients[0]));
    case LawKind::n_log_n:
      return fmt::format("N log N: {}{} and doubling", fixed, each(law.coefficients[0]));
    case LawKind::quadratic:
      return fmt::format("quadratic: {}{} at 1k", fixed, ms_text(law.ms_at_1k[0]));
    case LawKind::linear_and_quadratic:
      return fmt::format("linear and quadratic: {}{} + {} at 1k", fixed, each(law.coefficients[0]),
                         ms_text(law.ms_at_1k[1]));
    case LawKind::power:
      return fmt::format("grows {}with the power {}: {}{} ms at 1k",
                         std::fabs(law.exponent - 1) <= alike_power ? "nearly in proportion, " : "",
                         three_digits(law.exponent), fixed, three_digits(law.ms_at_1k[0]));
    case LawKind::one_knee:
    case LawKind::two_knees:
      break;
  }
  std::string text = fmt::format("{}{}{}", slopes_are_alike(law) ? "grows nearly in proportion: " : "linear, ", fixed,
                                 each(law.coefficients[0]));
  for (std::size_t i = 0; i < law.knees.size(); ++i)
    text += ", " + knee_text(law.knees[i], law.coefficients[i], law.coefficients[i + 1], axis);
  return text;
}

std::string knee_text(double at, double slope_below, double slope_above, const Axis& axis) {
  const std::string place = place_text(at, axis);
  if (slope_below <= 0) return fmt::format("flat below {}", place);
  if (slope_above <= 0) return fmt::format("flat above {}", place);
  const std::string ratio = three_digits(slope_above / slope_below);
  return slope_above >= slope_below ? fmt::format("{} times steeper above {}", ratio, place)
                                    : fmt::format("{} of the slope above {}", ratio, place);
}

std::string laws_text(const std::vector<NamedLaw>& names, const Axis& axis) {
  std::string text;
  for (const NamedLaw& law : names) text += (text.empty() ? "" : "; or ") + law_text(law, axis);
  return names.size() > 1 ? "cannot tell: " + text : text;
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
    case LawKind::two_knees:
      return "linear with two knees";
  }
  return "";
}

const char* not_tested_text(NotTested why) {
  switch (why) {
    case NotTested::tested:
      return "";
    case NotTested::too_few_blocks:
      return "not tested: fewer than three blocks tell too little of their noise";
    case NotTested::too_few_places:
      return "not tested: fewer than three places fit any law";
  }
  return "";
}

TextTable growth_table(const About& about, const GrowthAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column("exponent (95 %)");
  table.column("at the ends");
  table.column("measured");
  table.column(each_unit(about.axis) + " there");
  for (std::size_t i = 0; i < answer.series.size(); ++i) {
    const SeriesGrowth& series = answer.series[i];
    const CurvePoint& first = series.points.front();
    const CurvePoint& last = series.points.back();
    table.row(
        {about.label(i), exponent_text(series),
         series.exponent_at_min && series.exponent_at_max
             ? fmt::format("{} to {}", three_digits(*series.exponent_at_min), three_digits(*series.exponent_at_max))
             : "not known",
         fmt::format("{} to {}", place_text(first.x, about.axis), place_text(last.x, about.axis)),
         fmt::format("{} to {}", each_number(first.ms / first.x, about.axis),
                     each_number(last.ms / last.x, about.axis))});
  }
  return table;
}

TextTable law_table(const About& about, const GrowthAnswer& answer) {
  TextTable table;
  table.column("variant");
  table.column("law");
  for (std::size_t i = 0; i < answer.series.size(); ++i)
    table.row({about.label(i), law_words(about, answer.series[i])});
  return table;
}

std::vector<std::string> knee_lines(const About& about, const GrowthAnswer& answer) {
  std::vector<std::string> lines;
  for (std::size_t i = 0; i < answer.series.size(); ++i)
    for (const Knee& knee : answer.series[i].knees)
      lines.push_back(fmt::format(
          "{}: {} {}{}", about.label(i), knee_text(knee.at, knee.slope_below, knee.slope_above, about.axis),
          interval_text(knee.interval, about.axis),
          (knee.cache.empty() ? "" : fmt::format("; so many take about as much memory as {} holds", knee.cache)) +
              (knee.knob.empty() ? "" : fmt::format("; near {} = {}", knee.knob, count_text(knee.knob_value)))));
  return lines;
}

std::vector<std::string> step_lines(const About& about, const GrowthAnswer& answer) {
  std::vector<std::string> lines;
  for (std::size_t i = 0; i < answer.series.size(); ++i)
    for (const CostStep& step : answer.series[i].steps)
      lines.push_back(
          fmt::format("{}: a step between {} and {}, to {} times the cost; laws are of the points without it",
                      about.label(i), place_text(step.before, about.axis), place_text(step.after, about.axis),
                      with_range(step.times, step.interval)));
  return lines;
}

TextTable point_table(const About& about, const SeriesGrowth& series) {
  TextTable table;
  table.column(about.axis.things, Align::right);
  table.column("ms a frame", Align::right);
  table.column("95 % interval", Align::right);
  table.column(each_unit(about.axis), Align::right);
  table.column("frames a second", Align::right);
  table.column("visits", Align::right);
  for (const CurvePoint& point : series.points)
    table.row({place_text(point.x, about.axis), three_digits(point.ms),
               point.interval.closed()
                   ? fmt::format("{} to {}", three_digits(*point.interval.low), three_digits(*point.interval.high))
                   : "none",
               each_number(point.ms / point.x, about.axis), three_digits(1000 / point.ms),
               fmt::format("{}", point.visits)});
  return table;
}

std::string summaries_csv(const About& about, const GrowthAnswer& answer) {
  std::string csv = fmt::format("series,{},ms,low,high,visits,ns_each\n", csv_field(about.axis.name));
  const auto end = [](const std::optional<double>& ms) { return ms ? fmt::format("{}", *ms) : std::string(); };
  for (std::size_t i = 0; i < answer.series.size(); ++i)
    for (const CurvePoint& point : answer.series[i].points)
      csv += fmt::format("{},{},{},{},{},{},{}\n", csv_field(about.label(i)), point.x, point.ms,
                         end(point.interval.low), end(point.interval.high), point.visits, each_ns(point));
  return csv;
}

/// One place tells nothing of growth.
std::string only_place_text(const About& about) {
  return fmt::format("Measured at {} alone: how cost grows takes at least three {}s. What a frame costs there: {}\n\n",
                     named_place(*about.only_place, about.axis), about.axis.name,
                     pasted_command("cost " + shell_word(about.study)));
}

/// "16384".
std::string value_text(double value) { return text_of(KnobValue(value)); }

/// The point that costs least.
const CurvePoint& best_of(const SeriesGrowth& series) {
  return *std::min_element(series.points.begin(), series.points.end(),
                           [](const CurvePoint& a, const CurvePoint& b) { return a.ms < b.ms; });
}

/// Whether a point surely costs more than the best one.
bool is_surely_worse(const CurvePoint& point, const CurvePoint& best) {
  return point.interval.low && best.interval.high && *point.interval.low > *best.interval.high;
}

TextTable values_table(const About& about, const SeriesGrowth& series) {
  TextTable table;
  table.column(about.axis.name, Align::right);
  table.column("ms a frame (95 %)");
  table.column("of the best", Align::right);
  table.column("verdict");
  const CurvePoint& best = best_of(series);
  for (const CurvePoint& point : series.points)
    table.row({value_text(point.x), with_range(point.ms, point.interval), three_digits(point.ms / best.ms),
               &point == &best                ? "best"
               : is_surely_worse(point, best) ? "worse"
                                              : "cannot be told from the best"});
  return table;
}

/// Which value takes least, and whether any is surely worse.
std::string values_sentence(const About& about, std::size_t index, const SeriesGrowth& series) {
  const CurvePoint& best = best_of(series);
  const bool is_any_worse = std::any_of(series.points.begin(), series.points.end(),
                                        [&](const CurvePoint& point) { return is_surely_worse(point, best); });
  const std::string least =
      fmt::format("{} takes least, {} ms a frame", value_text(best.x), with_range(best.ms, best.interval));
  return fmt::format("{}: of {} {}{}", about.label(index), about.axis.name, least,
                     is_any_worse ? "" : "; none can be told from another");
}

/// Of a knob that is a choice: which of its values is best.
std::string values_text(const About& about, const GrowthAnswer& answer) {
  std::string text;
  for (std::size_t i = 0; i < answer.series.size(); ++i)
    text += values_sentence(about, i, answer.series[i]) + "\n\n" + values_table(about, answer.series[i]).text() + "\n";
  return text;
}

std::string growth_text(const About& about, const GrowthAnswer& answer) {
  if (about.axis.is_choice) return values_text(about, answer);
  if (about.only_place) return only_place_text(about);
  std::string text = fmt::format("How the time of a frame of {} grows\n\n{}\n{}\n", about.head.scenario.name,
                                 growth_table(about, answer).text(), law_table(about, answer).text());
  std::vector<std::string> lines = knee_lines(about, answer);
  for (const std::string& line : step_lines(about, answer)) lines.push_back(line);
  for (const std::string& line : lines) text += "  " + line + "\n";
  return lines.empty() ? text : text + "\n";
}

std::string points_text(const About& about, const GrowthAnswer& answer) {
  std::string text;
  for (std::size_t i = 0; i < answer.series.size(); ++i)
    text += about.label(i) + "\n\n" + point_table(about, answer.series[i]).text() + "\n";
  return text;
}

void add_growth_json(Json& json, const About& about, const GrowthAnswer& answer) {
  Json& rows = rows_of(json, "curves");
  for (std::size_t i = 0; i < answer.series.size(); ++i) rows.push_back(curve_row(about, i, answer.series[i]));
}

}  // namespace mileage
