#include "views/findings_json.h"

#include <cmath>

#include <nlohmann/json.hpp>

#include "views/words.h"

namespace mileage {
namespace {

Json optional_json(const std::optional<double>& value) { return value ? Json(*value) : Json(nullptr); }

std::optional<double> finite(double value) { return std::isfinite(value) ? std::optional(value) : std::nullopt; }

/// A place on the axis; counts are whole numbers.
Json place_json(double x, const std::string& axis) {
  return axis == "count" ? Json(static_cast<std::int64_t>(std::llround(x))) : Json(x);
}
Json place_json(const std::optional<double>& x, const std::string& axis) { return x ? place_json(*x, axis) : Json(nullptr); }

Json row_of(const Findings& findings, std::size_t series, bool several) {
  const SeriesFinding& one = findings.series[series];
  Json row;
  if (several) row["study"] = findings.study;
  row["series"] = one.label;
  row["variant"] = one.series.variant;
  row["knobs"] = to_json(one.series.knobs);
  return row;
}

const char* source_name(Source source) {
  switch (source) {
    case Source::local: return "local";
    case Source::law: return "law";
    case Source::interpolated: return "interpolated";
    case Source::extrapolated: return "extrapolated";
  }
  return "";
}

Json capacity_row(const Findings& findings, const CapacityFinding& one, bool several) {
  const Capacity& capacity = one.capacity;
  Json row = row_of(findings, one.series, several);
  row["statistic"] = "typical";
  row["budget_ms"] = capacity.budget_ms;
  // What still holds the budget is rounded down.
  row[findings.axis] = capacity.at && findings.axis == "count" ? place_json(std::floor(*capacity.at), findings.axis)
                                                               : place_json(capacity.at, findings.axis);
  row["low"] = place_json(capacity.interval.low, findings.axis);
  row["high"] = place_json(capacity.interval.high, findings.axis);
  row["extrapolated"] = capacity.at.has_value() && capacity.source == Source::extrapolated;
  if (capacity.at) row["read"] = source_name(capacity.source);
  if (!capacity.at) row["reason"] = no_capacity_text(capacity.none);
  if (!capacity.interval_missing.empty()) row["interval_missing"] = capacity.interval_missing;
  return row;
}

/// The row of a capacity, and the one for 99 % of frames.
void append_capacities(Json& rows, const Findings& findings, const CapacityFinding& one, bool several) {
  rows.push_back(capacity_row(findings, one, several));
  if (one.tail) {
    CapacityFinding tail = one;
    tail.capacity = *one.tail;
    rows.push_back(capacity_row(findings, tail, several));
  } else {
    Json row = row_of(findings, one.series, several);
    row["budget_ms"] = one.capacity.budget_ms;
    row[findings.axis] = row["low"] = row["high"] = nullptr;
    row["extrapolated"] = false;
    row["reason"] = "not enough frames";
    row["frames"] = one.tail_frames;
    rows.push_back(std::move(row));
  }
  rows.back()["statistic"] = "99%";
}

Json break_even_row(const Findings& findings, const PairFinding& pair, const BreakEven& one, bool several) {
  const bool one_below = one.cheaper_below == Side::one;
  const SeriesFinding& below = findings.series[one_below ? pair.one : pair.other];
  const SeriesFinding& above = findings.series[one_below ? pair.other : pair.one];
  Json row;
  if (several) row["study"] = findings.study;
  row["cheaper_below"] = below.series.variant;
  row["cheaper_above"] = above.series.variant;
  row["series_below"] = below.label;
  row["series_above"] = above.label;
  row["knobs_below"] = to_json(below.series.knobs);
  row["knobs_above"] = to_json(above.series.knobs);
  row[findings.axis] = place_json(one.at, findings.axis);
  row["low"] = place_json(one.interval.low, findings.axis);
  row["high"] = place_json(one.interval.high, findings.axis);
  row["even_from"] = place_json(one.even.low, findings.axis);
  row["even_to"] = place_json(one.even.high, findings.axis);
  if (!one.interval_missing.empty()) row["interval_missing"] = one.interval_missing;
  if (pair.divider) row["each"] = {{"of", pair.divider->knob}, {"number", pair.divider->number}, {"count", one.at / pair.divider->number}};
  return row;
}

Json none_row(const Findings& findings, const PairFinding& pair, bool several) {
  const SeriesFinding& one = findings.series[pair.one];
  const SeriesFinding& other = findings.series[pair.other];
  Json row;
  if (several) row["study"] = findings.study;
  row["variants"] = {one.series.variant, other.series.variant};
  row["series"] = {one.label, other.label};
  row["cheaper"] = nullptr;
  if (pair.answer.cheaper) {
    row["cheaper"] = *pair.answer.cheaper == Side::one ? one.series.variant : other.series.variant;
    row["cheaper_series"] = *pair.answer.cheaper == Side::one ? one.label : other.label;
    row["clear_from"] = place_json(pair.answer.clear.low, findings.axis);
    row["clear_to"] = place_json(pair.answer.clear.high, findings.axis);
    row["share_at_clear_from"] = pair.answer.share_at_lower;
    row["share_at_clear_to"] = pair.answer.share_at_upper;
  }
  row["reason"] = pair.answer.reason;
  return row;
}

Json cost_rows(const Findings& findings, bool several) {
  Json rows = Json::array();
  for (const GroupFinding& group : findings.groups)
    for (const CostFinding& place : group.costs)
      for (const CostFinding::Cost& cost : place.costs) {
        if (!cost.ms) continue;
        Json row = row_of(findings, cost.series, several);
        row["conditions"] = group.conditions;
        row[findings.axis] = place_json(place.x, findings.axis);
        row["ms"] = *cost.ms;
        row["low_ms"] = optional_json(cost.ms_interval.low);
        row["high_ms"] = optional_json(cost.ms_interval.high);
        row["saves_ms"] = cost.saves_ms;
        row["setup_ms"] = optional_json(cost.setup_ms);
        row["payback_frames"] = optional_json(cost.payback_frames);
        row["share_of"] = findings.series[group.members.front()].label;
        row["share"] = cost.share;
        row["low"] = optional_json(cost.share_interval.low);
        row["high"] = optional_json(cost.share_interval.high);
        rows.push_back(std::move(row));
      }
  return rows;
}

Json coefficients_json(const Law& law) {
  Json json{{"fixed_ms", law.fixed_ms}};
  if (law.kind != LawKind::constant) json["per_unit_ms"] = law.coefficients;
  if (law.kind == LawKind::power) json["exponent"] = law.exponent;
  return json;
}

Json knees_json(const SeriesFinding& series) {
  Json knees = Json::array();
  for (const KneeFinding& knee : series.knees)
    knees.push_back({{"count", knee.at},
                     {"low", optional_json(knee.interval.low)},
                     {"high", optional_json(knee.interval.high)},
                     {"slope_ratio", optional_json(knee.slope_ratio)},
                     {"cache", knee.cache}});
  return knees;
}

Json device_json(const std::optional<DeviceShare>& share) {
  if (!share) return nullptr;
  return {{"processor_ms", share->processor_ms},
          {"device_ms", share->device_ms},
          {"told_by", share->by_timer ? "timer" : "fence"},
          {"runs_out_first", share->shares_cores ? "shared cores" : share->device_runs_out_first() ? "device" : "processor"}};
}

Json detail_json(const CellDetail& cell, const std::optional<DeviceShare>& share, const std::string& axis) {
  std::map<std::string, double> per_second;
  for (const auto& [name, amount] : cell.counters) per_second[name] = cell.per_second(amount);
  return {{axis, place_json(cell.x, axis)},
          {"frame_ms", cell.frame_ms},
          {"thread_busy_ms", optional_json(cell.thread_busy_ms)},
          {"processor_ms", optional_json(cell.processor_ms)},
          {"cores_used", optional_json(cell.cores_used())},
          {"whole_cores_used", optional_json(cell.whole_cores_used)},
          {"frames_per_sample", cell.frames_per_sample},
          {"phases_ms", cell.phases_ms},
          {"counters", cell.counters},
          {"counters_per_second", per_second},
          {"device", device_json(share)},
          {"bytes_per_entity", optional_json(cell.bytes_per_entity)},
          {"peak_bytes", optional_json(cell.peak_bytes)},
          {"growth_bytes_per_frame", optional_json(cell.growth_bytes_per_frame)}};
}

Json curve_row(const Findings& findings, std::size_t series, bool several) {
  const SeriesFinding& one = findings.series[series];
  const Curve& curve = one.curve.all;
  Json row = row_of(findings, series, several);
  row["law"] = curve.law ? Json(law_name(curve.law->kind)) : Json(nullptr);
  row["exponent"] = {{"value", optional_json(one.exponent)},
                     {"low", optional_json(one.exponent_interval.low)},
                     {"high", optional_json(one.exponent_interval.high)}};
  row["cannot_tell"] = Json::array();
  if (curve.names.size() > 1)
    for (const Law& law : curve.names) row["cannot_tell"].push_back(law_name(law.kind));
  row["knees"] = knees_json(one);
  row["exponent_at_least"] = optional_json(one.exponent_at_least);
  row["exponent_at_most"] = optional_json(one.exponent_at_most);
  row["coefficients"] = curve.law ? coefficients_json(*curve.law) : Json::object();
  if (curve.not_tested != NotTested::tested) row["reason"] = not_tested_text(curve.not_tested);
  row["laws"] = Json::array();
  for (const LawTest& test : curve.tests)
    row["laws"].push_back({{"law", law_name(test.fit.law.kind)},
                           {"left_out_error", optional_json(left_out_error(test.fit.law.kind, curve.points))},
                           {"exceedance", test.exceedance},
                           {"rejected", test.rejected}});
  row["setup_ms_at_most"] = one.setup_ms.empty() ? Json(nullptr) : optional_json(one.setup_ms.back());
  row["points"] = Json::array();
  for (const PointFinding& point : one.points)
    row["points"].push_back({{findings.axis, place_json(point.x, findings.axis)},
                             {"ms", point.ms},
                             {"low", optional_json(point.interval.low)},
                             {"high", optional_json(point.interval.high)},
                             {"visits", point.visits}});
  row["parts"] = Json::array();
  for (std::size_t i = 0; i < one.details.size(); ++i) row["parts"].push_back(detail_json(one.details[i], one.device_shares[i], findings.axis));
  return row;
}

const char* verdict_name(AgreementVerdict verdict) {
  switch (verdict) {
    case AgreementVerdict::unchecked: return "unchecked";
    case AgreementVerdict::agrees: return "agrees";
    case AgreementVerdict::approximate: return "approximate";
    case AgreementVerdict::differs: return "differs";
    case AgreementVerdict::unstable: return "unstable";
  }
  return "";
}

Json agreement_json(const Agreement& one) {
  Json json = to_json(one.series);
  json["verdict"] = verdict_name(one.verdict);
  json["largest_error"] = one.largest_error;
  if (!one.worst) return json;
  json["worst"] = {{"quantity", one.worst->quantity}, {"expected", optional_json(finite(one.worst->expected))},
                   {"found", optional_json(finite(one.worst->found))}, {"tolerance", one.worst->tolerance},
                   {"count", one.count}, {"varied", to_json(one.varied)}};
  return json;
}

Json quietness_json(const Quietness& quiet) {
  return {{"kept", quiet.kept},
          {"condemned", quiet.condemned},
          {"waited_s", quiet.waited_s},
          {"yardstick_ns", optional_json(quiet.level_ns)},
          {"remembered_ns", optional_json(quiet.remembered_ns)},
          {"slow_throughout", quiet.slow_throughout},
          {"busy_cores", optional_json(quiet.busy_cores)},
          {"stolen_share", optional_json(quiet.stolen_share)},
          {"follows_yardstick", optional_json(quiet.follows_yardstick)}};
}

Json headroom_rows(const Findings& findings, bool several) {
  Json rows = Json::array();
  for (const double budget_ms : findings.budgets_ms)
    for (const PlaceFinding& one : findings.places) {
      if (!one.ms) continue;
      Json row = row_of(findings, one.series, several);
      row["budget_ms"] = budget_ms;
      row[findings.axis] = place_json(one.x, findings.axis);
      row["ms"] = *one.ms;
      row["low_ms"] = optional_json(one.interval.low);
      row["high_ms"] = optional_json(one.interval.high);
      row["share"] = *one.ms / budget_ms;
      row["left_ms"] = budget_ms - *one.ms;
      rows.push_back(std::move(row));
    }
  return rows;
}

Json against_rows(const Findings& findings, bool several) {
  Json rows = Json::array();
  for (const AgainstFinding& one : findings.against)
    for (const AgainstFinding::Place& place : one.places) {
      Json row = row_of(findings, one.series, several);
      row["against"] = findings.series[one.against].label;
      row[findings.axis] = place_json(place.x, findings.axis);
      row["share"] = place.share;
      row["low"] = optional_json(place.interval.low);
      row["high"] = optional_json(place.interval.high);
      row["saves_ms"] = place.saves_ms;
      rows.push_back(std::move(row));
    }
  return rows;
}

/// What a stretch saves against the first series of its group at both ends, where that was measured.
Json saves_json(const Findings& findings, const GroupFinding& group, const Stretch& stretch) {
  const Curve& first = findings.series[group.members.front()].curve.all;
  const Curve& used = findings.series[stretch.use].curve.all;
  Json json = Json::object();
  for (const double x : {stretch.from, stretch.to})
    if (first.covers(x) && used.covers(x))
      json[std::to_string(std::llround(x))] = std::exp(first.log_ms_at(x)) - std::exp(used.log_ms_at(x));
  return json;
}

Json choice_rows(const Findings& findings, bool several) {
  Json rows = Json::array();
  for (const GroupFinding& group : findings.groups)
    for (const Stretch& stretch : group.stretches) {
      Json row = row_of(findings, stretch.use, several);
      row["conditions"] = group.conditions;
      row["from"] = place_json(stretch.from, findings.axis);
      row["to"] = place_json(stretch.to, findings.axis);
      row["matters"] = stretch.matters;
      row["fits"] = stretch.fits;
      row["saves_ms_at"] = saves_json(findings, group, stretch);
      rows.push_back(std::move(row));
    }
  return rows;
}

Json device_rows(const Findings& findings, bool several) {
  Json rows = Json::array();
  for (std::size_t i = 0; i < findings.series.size(); ++i)
    for (std::size_t place = 0; place < findings.series[i].device_shares.size(); ++place) {
      const auto& share = findings.series[i].device_shares[place];
      if (!share) continue;
      Json row = row_of(findings, i, several);
      row[findings.axis] = place_json(findings.series[i].details[place].x, findings.axis);
      row.update(device_json(share));
      rows.push_back(std::move(row));
    }
  return rows;
}

void append(Json& list, Json rows) {
  for (Json& row : rows) list.push_back(std::move(row));
}

}  // namespace

Json envelope(const char* verb, const std::vector<Findings>& studies) {
  Json json{{"verb", verb}, {"format", answer_format}, {"axis", studies.empty() ? "count" : studies.front().axis}};
  json["warnings"] = Json::array();
  for (const Findings& findings : studies)
    for (const std::string& warning : findings.warnings) json["warnings"].push_back(warning);
  json["failures"] = Json::array();
  for (const Findings& findings : studies)
    for (const Failure& failure : findings.failures)
      json["failures"].push_back({{"series", failure.label}, {findings.axis, place_json(failure.x, findings.axis)},
                                  {"block", failure.block}, {"reason", failure.reason}});
  json["bounds"] = Json::array();
  for (const Findings& findings : studies)
    for (const BoundFinding& bound : findings.bounds)
      json["bounds"].push_back({{"series", bound.label}, {findings.axis, place_json(bound.x, findings.axis)}, {"at_most_ms", bound.at_most_ms}, {"reason", bound.reason}});
  json["agreement"] = Json::array();
  json["quietness"] = Json::array();
  for (const Findings& findings : studies) {
    for (const Agreement& one : findings.agreements) json["agreement"].push_back(agreement_json(one));
    json["quietness"].push_back(quietness_json(findings.quiet));
  }
  return json;
}

Json scenarios_json(const std::vector<Scenario>& scenarios) {
  Json json = envelope("list", {});
  json["scenarios"] = Json::array();
  for (const Scenario& scenario : scenarios) json["scenarios"].push_back(to_json(scenario));
  return json;
}

Json capacity_json(const std::vector<Findings>& studies) {
  Json json = envelope("capacity", studies);
  json["capacities"] = Json::array();
  for (const Findings& findings : studies)
    for (const CapacityFinding& one : findings.capacities)
      append_capacities(json["capacities"], findings, one, studies.size() > 1);
  json["headroom"] = Json::array();
  for (const Findings& findings : studies) append(json["headroom"], headroom_rows(findings, studies.size() > 1));
  json["devices"] = Json::array();
  for (const Findings& findings : studies) append(json["devices"], device_rows(findings, studies.size() > 1));
  return json;
}

Json break_even_json(const std::vector<Findings>& studies) {
  const bool several = studies.size() > 1;
  Json json = envelope("breakeven", studies);
  json["break_evens"] = Json::array();
  json["none"] = Json::array();
  json["costs"] = Json::array();
  for (const Findings& findings : studies) {
    for (const PairFinding& pair : findings.pairs) {
      for (const BreakEven& one : pair.answer.break_evens)
        json["break_evens"].push_back(break_even_row(findings, pair, one, several));
      if (pair.answer.break_evens.empty()) json["none"].push_back(none_row(findings, pair, several));
    }
    append(json["costs"], cost_rows(findings, several));
  }
  return json;
}

Json curve_json(const std::vector<Findings>& studies) {
  Json json = envelope("curve", studies);
  json["curves"] = Json::array();
  for (const Findings& findings : studies)
    for (std::size_t i = 0; i < findings.series.size(); ++i)
      json["curves"].push_back(curve_row(findings, i, studies.size() > 1));
  json["against"] = Json::array();
  for (const Findings& findings : studies) append(json["against"], against_rows(findings, studies.size() > 1));
  return json;
}

Json choose_json(const std::vector<Findings>& studies) {
  const bool several = studies.size() > 1;
  Json json = envelope("choose", studies);
  json["choices"] = Json::array();
  json["at"] = Json::array();
  json["everywhere"] = Json::array();
  for (const Findings& findings : studies) {
    append(json["choices"], choice_rows(findings, several));
    for (const GroupFinding& group : findings.groups) {
      for (const Advice& advice : group.advice) {
        Json row = row_of(findings, advice.use, several);
        row["conditions"] = group.conditions;
        row[findings.axis] = place_json(advice.at, findings.axis);
        row["matters"] = advice.matters;
        row["fits"] = advice.fits;
        row["next"] = advice.next ? Json(findings.series[*advice.next].label) : Json(nullptr);
        row["next_from"] = advice.next ? place_json(advice.next_from, findings.axis) : Json(nullptr);
        json["at"].push_back(std::move(row));
      }
      for (const Everywhere& one : group.everywhere) {
        Json row = row_of(findings, one.series, several);
        row["conditions"] = group.conditions;
        row["loses_ms"] = one.loses_ms;
        row[findings.axis] = place_json(one.at, findings.axis);
        row["takes"] = one.takes;
        json["everywhere"].push_back(std::move(row));
      }
    }
  }
  return json;
}

Json report_json(const std::vector<Findings>& studies) {
  Json json = envelope("report", studies);
  json["capacities"] = capacity_json(studies)["capacities"];
  const Json pairs = break_even_json(studies);
  for (const char* part : {"break_evens", "none", "costs"}) json[part] = pairs[part];
  json["curves"] = curve_json(studies)["curves"];
  json["choices"] = Json::array();
  for (const Findings& findings : studies) append(json["choices"], choice_rows(findings, studies.size() > 1));
  return json;
}

}  // namespace mileage
