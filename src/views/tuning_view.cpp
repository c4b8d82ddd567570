#include "views/tuning_view.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/error.h"
#include "types/notation.h"
#include "views/look.h"
#include "views/tics.h"
#include "views/words.h"

namespace mileage {
namespace {

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

/// Values with no significant loss; of named values and of two knobs one by one.
std::string as_good_text(const TuningAnswer& answer, const TunedAt& at) {
  if (at.plateau) return stretch_text(*at.plateau);
  std::vector<std::string> names;
  for (const TunedValue& one : at.values)
    if (one.is_as_good) names.push_back(values_text(answer, one.values));
  return fmt::format("{}", fmt::join(names, "; "));
}

double number_of(const TunedValue& one) { return std::get<double>(one.values.front()); }

std::string costs_block(std::size_t index, const TunedAt& at) {
  std::string block = fmt::format("$costs{} << END\n", index);
  for (const TunedValue& one : at.values)
    block += fmt::format("{} {} {} {}\n", number_of(one), one.cost.ms, one.cost.interval.low.value_or(one.cost.ms),
                         one.cost.interval.high.value_or(one.cost.ms));
  return block + "END\n";
}

std::string default_words(const TuningAnswer& answer, const TunedAt& at) {
  if (!at.default_value) return "The default was not measured.";
  const TunedValue& one = at.values[*at.default_value];
  const std::string name = fmt::format("the default ({})", values_text(answer, one.values));
  if (*at.default_value == at.best) return "That is the default.";
  if (one.is_as_good) return "Keep " + name + ".";
  return fmt::format("{} costs {} more ({}).", name, ms_text(one.cost.ms - at.values[at.best].cost.ms),
                     ratio_text(one.share));
}

std::string capitalized(std::string text) {
  if (!text.empty() && text.rfind("the ", 0) == 0) text[0] = 'T';
  return text;
}

Entry knob_entry(const KnobValue& value) {
  const double* number = std::get_if<double>(&value);
  return number != nullptr ? typed(*number) : Entry(std::get<std::string>(value));
}

Table tuned_table(const About& about, const TuningAnswer& answer, const TunedAt& at) {
  std::vector<Column> columns{{"series", "", Format::series, "variant, with the settings that tell it apart"},
                              {about.axis.name, "", Format::place, "place on the axis"}};
  for (const std::string& knob : answer.knobs) columns.push_back({knob, knob, Format::number, "value of the knob"});
  const std::vector<Column> results{
      {"ms", "ms/frame", Format::number, "typical frame, ms", Spread::column},
      {"relative", "relative to the best", Format::ratio, "time relative to the best value", Spread::inside},
      {"verdict", "verdict", Format::text, "best, maybe best, as good; default"},
      {"best", "", Format::flag, "the best"},
      {"may_be_best", "", Format::flag, "no value is significantly faster"},
      {"as_good", "", Format::flag, "not significantly slower than the share allowed"},
      {"default", "", Format::flag, "the default"}};
  columns.insert(columns.end(), results.begin(), results.end());
  Table table(about, "tuned", answer.places.size() > 1 ? "At " + named_place(at.x, about.axis) : "", columns);
  for (std::size_t i = 0; i < at.values.size(); ++i) {
    const TunedValue& one = at.values[i];
    std::vector<std::string> verdict;
    if (i == at.best || one.may_be_best || one.is_as_good)
      verdict.emplace_back(i == at.best ? "best" : one.may_be_best ? "maybe best" : "as good");
    if (one.is_default) verdict.emplace_back("default");
    Entry relative(one.share, one.share_interval);
    if (i == at.best) relative = Entry(1.0).reads("1");
    std::vector<Entry> row{series_entry(about, one.series), at.x};
    for (const KnobValue& value : one.values) row.push_back(knob_entry(value));
    const std::vector<Entry> result{{one.cost.ms, one.cost.interval},
                                    std::move(relative),
                                    fmt::format("{}", fmt::join(verdict, ", ")),
                                    i == at.best,
                                    one.may_be_best,
                                    one.is_as_good,
                                    one.is_default};
    row.insert(row.end(), result.begin(), result.end());
    table.row(std::move(row));
  }
  return table;
}

Table scaling_table(const About& about, const TuningAnswer& answer) {
  Table table(about, "scaling", "Scaling with workers",
              {place_column(about),
               {"serial_share", "serial share", Format::percent, "share of the frame that more workers do not shorten",
                Spread::inside},
               {"contention", "each worker costs the others", Format::percent, "of the time with one worker"},
               {"useful_workers", "useful workers", Format::whole, "more of them save less than 5 % each"},
               {"measured", "", Format::whole, "numbers of workers measured"}});
  for (const Scaling& one : answer.scaling)
    table.row({one.x, {one.serial, one.serial_interval}, one.contention, one.useful_workers, one.values});
  return table;
}

Table workers_table(const About& about, const TuningAnswer& answer) {
  Table table(about, "workers", "",
              {{"series", "", Format::series, "variant, with the settings that tell it apart"},
               {about.axis.name, "", Format::place, "place on the axis"},
               {"asked", "", Format::whole, "workers asked for"},
               {"worked", "", Format::number, "workers that worked, or cores used"},
               {"as_asked", "", Format::flag, "whether these agree"}});
  for (const Workers& one : answer.workers)
    table.row({series_entry(about, one.series), one.x, one.asked, one.worked, one.is_honoured});
  return table;
}

}  // namespace

std::string tuning_sentence(const About& about, const TuningAnswer& answer, const TunedAt& at) {
  const TunedValue& best = at.values[at.best];
  std::string text = fmt::format("At {}: {} is fastest ({})", named_place(at.x, about.axis),
                                 values_text(answer, best.values), ms_text(best.cost.ms));
  const std::string as_good = as_good_text(answer, at);
  const bool is_alone = as_good == value_text(best.values.front()) || as_good == values_text(answer, best.values);
  if (!as_good.empty() && !is_alone)
    text += fmt::format(", but {} {} within noise", at.plateau ? "anything from " + as_good : as_good,
                        at.plateau ? "is" : "are");
  return text + ". " + capitalized(default_words(answer, at));
}

Answer tuning_view(const About& about, const TuningAnswer& answer) {
  Answer view;
  for (const TunedAt& at : answer.places) {
    view.verdict.push_back(tuning_sentence(about, answer, at));
    view.tables.push_back(tuned_table(about, answer, at));
  }
  if (answer.places.empty())
    view.verdict.emplace_back("Nothing to choose from: no count asked for was measured at two values of a knob.");
  view.tables.push_back(scaling_table(about, answer));
  view.tables.push_back(workers_table(about, answer));
  if (answer.scaling.empty() && answer.knobs == std::vector<std::string>{"workers"})
    view.note("a serial share needs three numbers of workers at a count, its interval four.");
  for (const Workers& one : answer.workers)
    if (!one.is_honoured)
      view.notes.push_back({fmt::format("{} at {}: {:.0f} workers were asked for, {:.2g} {}.", about.label(one.series),
                                        place_text(one.x, about.axis), one.asked, one.worked,
                                        one.by_notes ? "worked" : "cores were used"),
                            Note::Kind::warning});
  return view;
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
             "set xlabel {9} textcolor rgb '{0}'\nset ylabel 'ms per frame, with 95 % bands' textcolor rgb "
             "'{0}' offset 1,0\nset title {10} font ',15' textcolor rgb '{0}'\nplot {11}, 1/0 with lines lw 7 lc rgb "
             "'{12}' title 'values within noise of the best'\n",
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
