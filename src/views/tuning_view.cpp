#include "views/views.h"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/notation.h"
#include "views/words.h"

namespace mileage {
namespace {

/// Can be typed back.
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

/// Values without significant loss.
std::string as_good_text(const TuningAnswer& answer, const TunedAt& at) {
  if (at.plateau) return stretch_text(*at.plateau);
  std::vector<std::string> names;
  for (const TunedValue& one : at.values)
    if (one.is_as_good) names.push_back(values_text(answer, one.values));
  return fmt::format("{}", fmt::join(names, "; "));
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
  std::vector<Column> columns{hidden_series_column(), {about.axis.name, "", Format::place, "place on the axis"}};
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
              {hidden_series_column(),
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

}  // namespace mileage
