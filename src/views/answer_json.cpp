#include "views/answer_json.h"

#include <cmath>

#include <nlohmann/json.hpp>

namespace mileage {
namespace {

std::optional<double> finite(double value) { return std::isfinite(value) ? std::optional(value) : std::nullopt; }

const char* verdict_name(AgreementVerdict verdict) {
  switch (verdict) {
    case AgreementVerdict::unchecked:
      return "unchecked";
    case AgreementVerdict::agrees:
      return "agrees";
    case AgreementVerdict::approximate:
      return "approximate";
    case AgreementVerdict::differs:
      return "differs";
    case AgreementVerdict::unstable:
      return "unstable";
  }
  return "";
}

Json agreement_json(const Agreement& one) {
  Json json = to_json(one.series);
  json["verdict"] = verdict_name(one.verdict);
  json["largest_error"] = one.largest_error;
  if (one.picture) json["picture"] = {{"pixels", one.picture->pixels}, {"mean", one.picture->mean}};
  if (!one.worst) return json;
  Json& worst = json["worst"];
  worst["quantity"] = one.worst->quantity;
  worst["expected"] = optional_json(finite(one.worst->expected));
  worst["found"] = optional_json(finite(one.worst->found));
  worst["tolerance"] = one.worst->tolerance;
  worst["count"] = one.count;
  worst["varied"] = to_json(one.varied);
  return json;
}

Json condition_json(const MachineCondition& quiet) {
  Json json;
  json["kept"] = quiet.kept;
  json["condemned"] = quiet.condemned;
  json["yardstick_ns"] = optional_json(quiet.fast_ns);
  json["slowness"] = optional_json(quiet.slowness);
  json["remembered_ns"] = optional_json(quiet.remembered_ns);
  json["slow_throughout"] = quiet.slow_throughout;
  json["busy_cores"] = optional_json(quiet.busy_cores);
  json["stolen_share"] = optional_json(quiet.stolen_share);
  return json;
}

Json spent_json(const TimeSpent& spent) {
  Json json;
  json["whole_s"] = spent.whole_s;
  json["frames_s"] = spent.frames_s;
  json["settling_s"] = spent.settling_s;
  json["set_up_s"] = spent.set_up_s;
  json["yardstick_s"] = spent.yardstick_s;
  json["before_s"] = spent.before_s;
  json["lost_s"] = spent.lost_s;
  json["rest_s"] = spent.rest_s;
  json["overhead_ms"] = optional_json(spent.overhead_ms);
  return json;
}

Json failure_json(const Failure& failure, const Axis& axis) {
  Json json;
  json["series"] = failure.label;
  json[axis.name] = place_json(failure.x, axis);
  json["block"] = failure.block;
  json["reason"] = failure.reason;
  return json;
}

Json bound_json(const Bound& bound, const Axis& axis) {
  Json json;
  json["series"] = bound.label;
  json[axis.name] = place_json(bound.x, axis);
  json["at_most_ms"] = bound.at_most_ms;
  json["reason"] = bound.reason;
  return json;
}

}  // namespace

Json optional_json(const std::optional<double>& value) { return value ? Json(*value) : Json(nullptr); }

Json place_json(double x, const Axis& axis) {
  return axis.is_whole ? Json(static_cast<std::int64_t>(std::llround(x))) : Json(x);
}

Json place_json(const std::optional<double>& x, const Axis& axis) { return x ? place_json(*x, axis) : Json(nullptr); }

void add_interval(Json& row, const Interval& interval, const char* low, const char* high) {
  row[low] = optional_json(interval.low);
  row[high] = optional_json(interval.high);
}

const char* source_name(Source source) {
  switch (source) {
    case Source::local:
      return "local";
    case Source::law:
      return "law";
    case Source::interpolated:
      return "interpolated";
    case Source::extrapolated:
      return "extrapolated";
    case Source::step:
      return "step";
  }
  return "";
}

namespace {

Json value_json(const Entry& cell, const Column& column, const Axis& axis) {
  return std::visit(
      [&](const auto& value) -> Json {
        using Value = std::decay_t<decltype(value)>;
        if constexpr (std::is_same_v<Value, std::monostate>)
          return nullptr;
        else if constexpr (std::is_same_v<Value, double>)
          return column.format == Format::place ? place_json(value, axis) : Json(value);
        else
          return value;
      },
      cell.value);
}

Json end_json(const std::optional<double>& end, const Column& column, const Axis& axis) {
  return column.format == Format::place ? place_json(end, axis) : optional_json(end);
}

Json cells_json(const Table& table, const std::vector<Entry>& cells) {
  Json row = Json::object();
  for (std::size_t i = 0; i < cells.size(); ++i) {
    const Column& column = table.columns()[i];
    const Entry& cell = cells[i];
    row[column.name] = value_json(cell, column, table.axis());
    if (cell.is_absent() && !cell.said.empty()) row[column.name + "_missing"] = cell.said;
    if (!cell.variant.empty() && column.name == "series") row["variant"] = cell.variant;
    if (column.spread == Spread::none) continue;
    row[column.name + "_low"] = end_json(cell.interval.low, column, table.axis());
    row[column.name + "_high"] = end_json(cell.interval.high, column, table.axis());
    if (!cell.missing.empty()) row[column.name + "_interval_missing"] = cell.missing;
  }
  return row;
}

const char* kind_name(Note::Kind kind) {
  switch (kind) {
    case Note::Kind::note:
      return "note";
    case Note::Kind::warning:
      return "warning";
    case Note::Kind::failure:
      return "failure";
  }
  return "";
}

}  // namespace

void add_answer_json(Json& json, const Answer& answer) {
  for (const std::string& sentence : answer.verdict) rows_of(json, "verdict").push_back(sentence);
  for (const Table& table : answer.tables) {
    Json& rows = rows_of(json, table.name().c_str());
    for (const auto& cells : table.rows()) rows.push_back(cells_json(table, cells));
  }
  for (const Note& note : answer.notes)
    rows_of(json, "notes").push_back({{"kind", kind_name(note.kind)}, {"text", note.text}});
  for (const std::string& command : answer.next) rows_of(json, "next").push_back(command);
  for (const std::string& file : answer.files) rows_of(json, "files").push_back(file);
}

Json& rows_of(Json& answer, const char* name) {
  Json& rows = answer[name];
  if (rows.is_null()) rows = Json::array();
  return rows;
}

Json row_of(const About& about) {
  Json row = Json::object();
  if (about.is_one_of_several) row["study"] = about.study;
  return row;
}

Json row_of(const About& about, std::size_t series) {
  const NamedSeries& one = about.series[series];
  Json row = row_of(about);
  row["series"] = one.label;
  row["variant"] = one.series.variant;
  row["knobs"] = to_json(one.series.knobs);
  return row;
}

namespace {

Json adjusted_row(const About& about, std::size_t series) {
  const Adjusted& by = *about.series[series].adjusted;
  Json row = row_of(about, series);
  row["slope"] = by.slope;
  row["trust"] = by.trust;
  row["taken_off"] = by.taken_off;
  return row;
}

}  // namespace

Json envelope(const char* verb, const std::vector<About>& studies) {
  Json json;
  json["verb"] = verb;
  json["format"] = answer_format;
  json["axis"] = studies.empty() ? Axis().name : studies.front().axis.name;
  for (const char* part :
       {"series", "warnings", "failures", "bounds", "agreement", "quietness", "adjusted", "measuring"})
    rows_of(json, part);
  for (const About& about : studies) {
    for (std::size_t i = 0; i < about.series.size(); ++i) json["series"].push_back(row_of(about, i));
    for (const std::string& warning : about.warnings) json["warnings"].push_back(warning);
    for (const Failure& failure : about.failures) json["failures"].push_back(failure_json(failure, about.axis));
    for (const Bound& bound : about.bounds) json["bounds"].push_back(bound_json(bound, about.axis));
    for (const Agreement& one : about.agreements) json["agreement"].push_back(agreement_json(one));
    json["quietness"].push_back(condition_json(about.quiet));
    json["measuring"].push_back(about.spent ? spent_json(*about.spent) : Json(nullptr));
    for (std::size_t i = 0; i < about.series.size(); ++i)
      if (about.series[i].adjusted) json["adjusted"].push_back(adjusted_row(about, i));
  }
  return json;
}

}  // namespace mileage
