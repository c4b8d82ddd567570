#include "views/shared_frame_view.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "types/error.h"
#include "views/answer_json.h"
#include "views/look.h"
#include "views/tics.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

constexpr int map_height = 800;

std::string capacity_beside(const About& about, const BesideOther& one) {
  if (!one.capacity.at) return one.capacity.none == NoCapacity::over_at_once ? "none" : "more than measured";
  const std::string at = place_text(*one.capacity.at, about.axis);
  return one.capacity.interval.closed() ? at + " " + interval_text(one.capacity.interval, about.axis) : at;
}

/// Which of both brings more when it takes half; empty where that cannot be read.
std::string improve_words(const About& about, const SharedFrameAnswer& answer, const SharedSeries& one) {
  if (!one.improve || !one.improve->now) return {};
  const auto place = [&](const std::optional<double>& x) {
    return x ? place_text(*x, about.axis) + " fit" : "more fit than can be told";
  };
  const Improvement& improve = *one.improve;
  const bool own_first = improve.own_halved.value_or(HUGE_VAL) >= improve.other_halved.value_or(HUGE_VAL);
  return fmt::format("{}: at half its own cost {}, at half of {}'s {}: improve {} first.", about.label(one.series),
                     place(improve.own_halved), answer.other_scenario, place(improve.other_halved),
                     own_first ? about.label(one.series) : answer.other_scenario);
}

const BesideOther* at_place(const SharedSeries& one, double other_x) {
  const auto found = std::find_if(one.map.begin(), one.map.end(),
                                  [&](const BesideOther& beside) { return beside.other_x == other_x; });
  return found == one.map.end() ? nullptr : &*found;
}

/// Of the series that has most of them.
std::vector<double> places_of_map(const SharedFrameAnswer& answer) {
  std::vector<double> places;
  for (const SharedSeries& one : answer.series)
    if (one.map.size() > places.size()) {
      places.clear();
      for (const BesideOther& beside : one.map) places.push_back(beside.other_x);
    }
  return places;
}

}  // namespace

TextTable shared_frame_table(const About& about, const SharedFrameAnswer& answer) {
  TextTable table;
  table.column(answer.other_things, Align::right);
  table.column(answer.other + " takes ms", Align::right);
  for (const SharedSeries& one : answer.series) table.column(about.label(one.series));
  for (const double x : places_of_map(answer)) {
    std::vector<std::string> row{count_text(x)};
    for (const SharedSeries& one : answer.series) {
      const BesideOther* beside = at_place(one, x);
      if (row.size() == 1 && beside != nullptr) row.push_back(three_digits(beside->other.ms));
      row.push_back(beside == nullptr ? "none" : capacity_beside(about, *beside));
    }
    table.row(std::move(row));
  }
  return table;
}

std::vector<std::string> shared_frame_lines(const About& about, const SharedFrameAnswer& answer) {
  std::vector<std::string> lines, improve;
  for (const SharedSeries& one : answer.series) {
    if (!one.asked) continue;
    lines.push_back(fmt::format("Beside {} {} of {} ({}), {} holds {}.", count_text(*answer.other_at),
                                answer.other_things, answer.other, ms_text(one.asked->other.ms),
                                about.label(one.series), capacity_beside(about, *one.asked)));
    if (const std::string words = improve_words(about, answer, one); !words.empty()) improve.push_back(words);
  }
  lines.insert(lines.end(), improve.begin(), improve.end());
  return lines;
}

std::string shared_frame_text(const About& about, const SharedFrameAnswer& answer) {
  std::string text;
  for (const std::string& line : shared_frame_lines(about, answer)) text += line + "\n";
  return text + fmt::format("{}What fits into {} beside {} of {}, {}\n\n{}\n", text.empty() ? "" : "\n",
                            ms_text(answer.budget_ms), answer.other_scenario, answer.other, about.axis.things,
                            shared_frame_table(about, answer).text());
}

void add_shared_frame_json(Json& json, const About& about, const SharedFrameAnswer& answer) {
  const auto row_for = [&](const SharedSeries& one, const BesideOther& beside, bool asked) {
    Json row = row_of(about, one.series);
    row["beside"] = answer.other;
    row["other_count"] = beside.other_x;
    row["other_ms"] = beside.other.ms;
    row["budget_ms"] = answer.budget_ms;
    row["asked"] = asked;
    row[about.axis.name] = place_json(beside.capacity.at, about.axis);
    row["low"] = place_json(beside.capacity.interval.low, about.axis);
    row["high"] = place_json(beside.capacity.interval.high, about.axis);
    return row;
  };
  for (const SharedSeries& one : answer.series) {
    for (const BesideOther& beside : one.map) rows_of(json, "beside").push_back(row_for(one, beside, false));
    if (one.asked) rows_of(json, "beside").push_back(row_for(one, *one.asked, true));
    if (!one.improve) continue;
    Json row = row_of(about, one.series);
    row["now"] = place_json(one.improve->now, about.axis);
    row["own_halved"] = place_json(one.improve->own_halved, about.axis);
    row["other_halved"] = place_json(one.improve->other_halved, about.axis);
    rows_of(json, "improve").push_back(std::move(row));
  }
}

std::string shared_frame_figure_script(const About& about, const SharedFrameAnswer& answer, FigureFormat format) {
  double x_from = HUGE_VAL, x_to = 0, y_from = HUGE_VAL, y_to = 0;
  std::string script = gnuplot_terminal(format, map_height), plots;
  for (std::size_t i = 0; i < answer.series.size(); ++i) {
    const SharedSeries& one = answer.series[i];
    const NamedSeries& named = about.series[one.series];
    const look::Mark mark = look::mark_of(named.rank);
    script += fmt::format("$map{} << END\n", i);
    for (const BesideOther& beside : one.map) {
      if (!beside.capacity.at) continue;
      const double at = *beside.capacity.at;
      script += fmt::format("{} {} {} {}\n", beside.other_x, at, beside.capacity.interval.low.value_or(at),
                            beside.capacity.interval.high.value_or(at));
      x_from = std::min(x_from, beside.other_x);
      x_to = std::max(x_to, beside.other_x);
      y_from = std::min(y_from, at);
      y_to = std::max(y_to, at);
    }
    script += "END\n";
    plots += fmt::format(
        "{0}$map{1} using 1:3:4 with filledcurves fc rgb '{2}' fs transparent solid 0.15 noborder notitle, "
        "$map{1} using 1:2 with linespoints lw 2 dt {3} pt {4} ps 1.1*scale lc rgb '{2}' title {5}",
        plots.empty() ? "" : ", ", i, mark.colour, 1 + named.of_variant, mark.point, gnuplot_text(named.label));
  }
  if (answer.other_at)
    script += fmt::format("set arrow 1 from {0},graph 0 to {0},graph 1 nohead lw 1.6 dt (14,6) lc rgb '{1}'\n",
                          *answer.other_at, look::amber);
  return script +
         fmt::format(
             "set logscale xy 10\n"
             "set grid xtics ytics lc rgb '{1}' lw 1 dt 1\n"
             "set lmargin at screen 0.1\nset rmargin at screen 0.975\nset tmargin at screen 0.92\nset bmargin "
             "at screen 0.09\nset xrange [{2}:{3}]\nset yrange [{4}:{5}]\nset xtics ({6})\nset ytics ({7})\n"
             "set key bottom left Left reverse samplen 3 spacing 1.15 textcolor rgb '{0}' opaque fc rgb '{8}'\n"
             "set xlabel {9} textcolor rgb '{0}'\nset ylabel {10} textcolor rgb '{0}' offset 1,0\n"
             "set title {11} font ',15' textcolor rgb '{0}'\nplot {12}\n",
             look::ink, look::rule, x_from / 1.15, x_to * 1.15, y_from / 1.5, y_to * 1.5,
             decade_tics(x_from / 1.15, x_to * 1.15, count_text),
             decade_tics(y_from / 1.5, y_to * 1.5, [&](double y) { return place_text(y, about.axis); }), look::paper,
             gnuplot_text(answer.other_things + " of " + answer.other),
             gnuplot_text(about.axis.things + " that fit beside them, with 95 % bands"),
             gnuplot_text(fmt::format("{} and {} in {}", about.head.scenario.name, answer.other_scenario,
                                      ms_text(answer.budget_ms))),
             plots);
}

bool has_map(const SharedFrameAnswer& answer) {
  return std::any_of(answer.series.begin(), answer.series.end(), [](const SharedSeries& one) {
    return std::count_if(one.map.begin(), one.map.end(),
                         [](const BesideOther& beside) { return beside.capacity.at.has_value(); }) > 1;
  });
}

std::string shared_frame_figure(const About& about, const SharedFrameAnswer& answer, FigureFormat format) {
  if (!has_map(answer))
    throw Error({.kind = FaultKind::usage,
                 .field = "map",
                 .problem = "no series has a capacity at two places of the other system",
                 .accepted = "studies that were measured up to the budget"});
  return run_gnuplot(shared_frame_figure_script(about, answer, format));
}

}  // namespace mileage
