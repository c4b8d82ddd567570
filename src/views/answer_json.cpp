#include "views/answer_json.h"

#include <cmath>

#include <nlohmann/json.hpp>

#include "views/views.h"

namespace mileage {

Json place_json(double x, const Axis& axis) {
  return axis.is_whole ? Json(static_cast<std::int64_t>(std::llround(x))) : Json(x);
}

namespace {

Json value_json(const Entry& cell, const Column& column, const Axis& axis) {
  return std::visit(
      [&](const auto& value) -> Json {
        using Value = std::decay_t<decltype(value)>;
        if constexpr (std::is_same_v<Value, std::monostate>)
          return nullptr;
        else if constexpr (std::is_same_v<Value, double>)
          return !std::isfinite(value)            ? Json(nullptr)
                 : column.format == Format::place ? place_json(value, axis)
                                                  : Json(value);
        else
          return value;
      },
      cell.value);
}

Json end_json(const std::optional<double>& end, const Column& column, const Axis& axis) {
  return !end ? Json(nullptr) : column.format == Format::place ? place_json(*end, axis) : Json(*end);
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

namespace {

Json series_json(const About& about, const NamedSeries& one) {
  Json row = Json::object();
  if (about.is_one_of_several) row["study"] = about.study;
  row["series"] = one.label;
  row["variant"] = one.series.variant;
  row["knobs"] = to_json(one.series.knobs);
  return row;
}

}  // namespace

Json envelope(const char* verb, const std::vector<About>& studies) {
  Json json;
  json["verb"] = verb;
  json["format"] = answer_format;
  json["axis"] = studies.empty() ? Axis().name : studies.front().axis.name;
  rows_of(json, "series");
  rows_of(json, "warnings");
  for (const Table& table : facts_view(studies.empty() ? About() : studies.front()).tables)
    rows_of(json, table.name().c_str());
  for (const About& about : studies) {
    for (const NamedSeries& one : about.series) json["series"].push_back(series_json(about, one));
    for (const std::string& warning : about.warnings) json["warnings"].push_back(warning);
    add_answer_json(json, facts_view(about));
  }
  return json;
}

}  // namespace mileage
