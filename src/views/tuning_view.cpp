#include "views/tuning_view.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include "types/error.h"
#include "types/notation.h"
#include "views/answer_json.h"
#include "views/look.h"
#include "views/tics.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

constexpr int tuning_height = 800;

/// As it can be typed back.
std::string value_text(const KnobValue& value) { return text_of(value); }

std::string values_text(const TuningAnswer& answer, const std::vector<KnobValue>& values) {
  std::vector<std::string> texts;
  for (std::size_t i = 0; i < values.size(); ++i)
    texts.push_back(fmt::format("{} {}", answer.knobs[i], value_text(values[i])));
  return fmt::format("{}", fmt::join(texts, ", "));
}

std::string stretch_text(const ValueStretch& stretch) {
  return stretch.from == stretch.to ? value_text(stretch.from)
                                    : fmt::format("{} to {}", value_text(stretch.from), value_text(stretch.to));
}

/// Of named values and of two knobs: those that are as good, one by one.
std::string as_good_text(const TuningAnswer& answer, const TunedAt& at) {
  if (at.plateau) return stretch_text(*at.plateau);
  std::vector<std::string> names;
  for (const TunedValue& one : at.values)
    if (one.is_as_good) names.push_back(values_text(answer, one.values));
  return fmt::format("{}", fmt::join(names, "; "));
}

std::string preset_words(const TuningAnswer& answer, const TunedAt& at) {
  if (!at.preset) return "the preset was not measured";
  const TunedValue& preset = at.values[*at.preset];
  const std::string name = fmt::format("the preset ({})", values_text(answer, preset.values));
  if (*at.preset == at.best) return name + " is the best";
  if (preset.may_be_best) return name + " may be best too";
  const std::string loses =
      fmt::format("{} loses {}: {} of the time", name, ms_text(preset.cost.ms - at.values[at.best].cost.ms),
                  with_range(preset.share, preset.share_interval));
  return preset.is_as_good ? loses + ", and is not told to be dearer" : loses;
}

std::string verdict_cell(const TunedAt& at, std::size_t index) {
  const TunedValue& one = at.values[index];
  std::string words = index == at.best ? "best" : one.may_be_best ? "may be best" : one.is_as_good ? "as good" : "";
  if (one.is_preset) words += words.empty() ? "preset" : ", preset";
  return words;
}

std::string scaling_words(const About& about, const Scaling& scaling) {
  const std::string serial =
      scaling.serial_interval.closed()
          ? fmt::format("{:.1f} % ({:.1f} to {:.1f})", 100 * scaling.serial, 100 * *scaling.serial_interval.low,
                        100 * *scaling.serial_interval.high)
          : fmt::format("{:.1f} % (no interval: {} numbers of workers)", 100 * scaling.serial, scaling.values);
  return fmt::format(
      "At {}: serial share {}; each worker more costs the others {:.2f} %; useful workers: {:.0f} (both by the fit, "
      "without an "
      "interval).\n",
      named_place(scaling.x, about.axis), serial, 100 * scaling.contention, scaling.useful_workers);
}

std::string workers_words(const About& about, const Workers& one) {
  if (one.is_honoured) return {};
  return fmt::format("! {} at {}: {:.0f} workers were asked for, and {:.2g} {}\n", about.label(one.series),
                     place_text(one.x, about.axis), one.asked, one.worked, one.by_notes ? "worked" : "cores were used");
}

Json values_json(const TuningAnswer& answer, const std::vector<KnobValue>& values) {
  Json json;
  for (std::size_t i = 0; i < values.size(); ++i)
    std::visit([&](const auto& held) { json[answer.knobs[i]] = held; }, values[i]);
  return json;
}

Json value_json(const KnobValue& value) {
  return std::visit([](const auto& held) { return Json(held); }, value);
}

double number_of(const TunedValue& one) { return std::get<double>(one.values.front()); }

std::string costs_block(std::size_t index, const TunedAt& at) {
  std::string block = fmt::format("$costs{} << END\n", index);
  for (const TunedValue& one : at.values)
    block += fmt::format("{} {} {} {}\n", number_of(one), one.cost.ms, one.cost.interval.low.value_or(one.cost.ms),
                         one.cost.interval.high.value_or(one.cost.ms));
  return block + "END\n";
}

}  // namespace

std::string tuning_sentence(const About& about, const TuningAnswer& answer, const TunedAt& at) {
  const TunedValue& best = at.values[at.best];
  std::string text = fmt::format("At {}, {} is best with {}", named_place(at.x, about.axis),
                                 values_text(answer, best.values), ms_text(best.cost.ms));
  if (at.best_between && !(at.best_between->from == at.best_between->to))
    text += fmt::format("; any of {} may be", stretch_text(*at.best_between));
  text +=
      fmt::format("; not told to be more than {:.3g} % dearer: {}", 100 * answer.worth_share, as_good_text(answer, at));
  return text + "; " + preset_words(answer, at) + ".";
}

TextTable tuning_table(const About& about, const TuningAnswer& answer, const TunedAt& at) {
  TextTable table;
  table.column(fmt::format("{} at {}", fmt::join(answer.knobs, ", "), place_text(at.x, about.axis)), Align::right);
  table.column("ms a frame (95 %)");
  table.column("of the time of the best");
  table.column("");
  for (std::size_t i = 0; i < at.values.size(); ++i) {
    const TunedValue& one = at.values[i];
    std::vector<std::string> values;
    for (const KnobValue& value : one.values) values.push_back(value_text(value));
    table.row({fmt::format("{}", fmt::join(values, ", ")), with_range(one.cost.ms, one.cost.interval),
               i == at.best ? "1" : with_range(one.share, one.share_interval), verdict_cell(at, i)});
  }
  return table;
}

std::string tuning_text(const About& about, const TuningAnswer& answer) {
  std::string text;
  for (const TunedAt& at : answer.places) text += tuning_sentence(about, answer, at) + "\n";
  if (answer.places.empty())
    return "Nothing to choose from: no count asked for was measured at two values of a knob or more.\n\n";
  text += "\n";
  for (const TunedAt& at : answer.places) text += tuning_table(about, answer, at).text() + "\n";
  for (const Scaling& scaling : answer.scaling) text += scaling_words(about, scaling);
  if (answer.scaling.empty() && answer.knobs == std::vector<std::string>{"workers"})
    text += "A serial share needs three numbers of workers at a count, and an interval four.\n";
  for (const Workers& one : answer.workers) text += workers_words(about, one);
  return text + (answer.scaling.empty() && answer.workers.empty() ? "" : "\n");
}

void add_tuning_json(Json& json, const About& about, const TuningAnswer& answer) {
  Json& tuned = rows_of(json, "tuned");
  for (const TunedAt& at : answer.places)
    for (std::size_t i = 0; i < at.values.size(); ++i) {
      const TunedValue& one = at.values[i];
      Json row = row_of(about, one.series);
      row[about.axis.name] = place_json(at.x, about.axis);
      row["values"] = values_json(answer, one.values);
      row["ms"] = one.cost.ms;
      add_interval(row, one.cost.interval, "low_ms", "high_ms");
      row["share"] = one.share;
      add_interval(row, one.share_interval);
      row["best"] = i == at.best;
      row["may_be_best"] = one.may_be_best;
      row["as_good"] = one.is_as_good;
      row["preset"] = one.is_preset;
      tuned.push_back(std::move(row));
    }
  Json& plateaus = rows_of(json, "plateaus");
  for (const TunedAt& at : answer.places) {
    Json row = row_of(about);
    row[about.axis.name] = place_json(at.x, about.axis);
    row["best"] = values_json(answer, at.values[at.best].values);
    row["best_from"] = at.best_between ? value_json(at.best_between->from) : Json(nullptr);
    row["best_to"] = at.best_between ? value_json(at.best_between->to) : Json(nullptr);
    row["from"] = at.plateau ? value_json(at.plateau->from) : Json(nullptr);
    row["to"] = at.plateau ? value_json(at.plateau->to) : Json(nullptr);
    plateaus.push_back(std::move(row));
  }
  for (const Scaling& scaling : answer.scaling) {
    Json row = row_of(about);
    row[about.axis.name] = place_json(scaling.x, about.axis);
    row["numbers"] = scaling.values;
    row["serial_share"] = scaling.serial;
    add_interval(row, scaling.serial_interval);
    row["contention"] = scaling.contention;
    row["useful_workers"] = scaling.useful_workers;
    rows_of(json, "scaling").push_back(std::move(row));
  }
  for (const Workers& one : answer.workers) {
    Json row = row_of(about, one.series);
    row[about.axis.name] = place_json(one.x, about.axis);
    row["asked"] = one.asked;
    row["worked"] = one.worked;
    row["honoured"] = one.is_honoured;
    rows_of(json, "workers").push_back(std::move(row));
  }
}

std::string tuning_figure_script(const About& about, const TuningAnswer& answer, FigureFormat format) {
  double x_from = HUGE_VAL, x_to = 0, y_from = HUGE_VAL, y_to = 0;
  for (const TunedAt& at : answer.places)
    for (const TunedValue& one : at.values) {
      x_from = std::min(x_from, number_of(one));
      x_to = std::max(x_to, number_of(one));
      y_from = std::min(y_from, one.cost.interval.low.value_or(one.cost.ms));
      y_to = std::max(y_to, one.cost.interval.high.value_or(one.cost.ms));
    }
  // Zero has no place on a logarithmic axis.
  const bool is_log = x_from > 0;
  x_from = is_log ? x_from / 1.3 : x_from - 0.05 * (x_to - x_from);
  x_to = is_log ? x_to * 1.3 : x_to + 0.05 * (x_to - x_from);
  y_from /= 1.4;
  y_to *= 1.4;
  std::string script = gnuplot_terminal(format, tuning_height), plots;
  for (std::size_t i = 0; i < answer.places.size(); ++i) {
    const TunedAt& at = answer.places[i];
    const look::Mark mark = look::mark_of(static_cast<int>(i));
    const double best_ms = at.values[at.best].cost.ms;
    script += costs_block(i, at);
    if (at.plateau)
      script += fmt::format("set arrow {0} from {1},{3} to {2},{3} nohead lw 7 lc rgb '{4}' back\n", i + 1,
                            std::max(x_from, std::get<double>(at.plateau->from) / 1.05),
                            std::min(x_to, std::get<double>(at.plateau->to) * 1.05), best_ms / 1.12, look::amber);
    plots += fmt::format(
        "{0}$costs{1} using 1:3:4 with filledcurves fc rgb '{2}' fs transparent solid 0.15 noborder notitle, "
        "$costs{1} using 1:2 with linespoints lw 2 pt {3} ps 1.1*scale lc rgb '{2}' title {4}",
        i == 0 ? "" : ", ", i, mark.colour, mark.point, gnuplot_text(named_place(at.x, about.axis)));
  }
  return script +
         fmt::format(
             "set logscale {13} 10\n"
             "set grid xtics ytics lc rgb '{1}' lw 1 dt 1\n"
             "set lmargin at screen 0.075\nset rmargin at screen 0.975\nset tmargin at screen 0.92\nset bmargin at "
             "screen 0.09\nset xrange [{2}:{3}]\nset yrange [{4}:{5}]\nset xtics {6}\nset ytics ({7})\n"
             "set key top center horizontal samplen 3 spacing 1.15 textcolor rgb '{0}' opaque fc rgb '{8}'\n"
             "set xlabel {9} textcolor rgb '{0}'\nset ylabel 'milliseconds a frame, with 95 % bands' textcolor rgb "
             "'{0}' offset 1,0\nset title {10} font ',15' textcolor rgb '{0}'\nplot {11}, 1/0 with lines lw 7 lc rgb "
             "'{12}' title 'values not told to be dearer'\n",
             look::ink, look::rule, x_from, x_to, y_from, y_to,
             is_log ? "(" + decade_tics(x_from, x_to, [](double x) { return fmt::format("{:g}", x); }) + ")"
                    : "autofreq",
             fine_tics(y_from, y_to), look::paper, gnuplot_text(answer.knobs.front()),
             gnuplot_text(fmt::format("{}: {} tuned", about.head.scenario.name, answer.knobs.front())), plots,
             look::amber, is_log ? "xy" : "y");
}

bool can_draw_tuning(const TuningAnswer& answer) {
  return !answer.places.empty() && answer.knobs.size() == 1 &&
         std::holds_alternative<double>(answer.places.front().values.front().values.front());
}

std::string tuning_figure(const About& about, const TuningAnswer& answer, FigureFormat format) {
  if (!can_draw_tuning(answer))
    throw Error({.kind = FaultKind::usage,
                 .field = "figure",
                 .problem = "a figure is of one knob with numbers",
                 .accepted = "a study over several values of one numeric knob"});
  return run_gnuplot(tuning_figure_script(about, answer, format));
}

}  // namespace mileage
