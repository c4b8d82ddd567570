#include "analysis/findings.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "analysis/axis.h"
#include "analysis/crossings.h"
#include "analysis/labels.h"
#include "analysis/pairs.h"
#include "analysis/runs.h"
#include "analysis/tail.h"
#include "analysis/visits_by_series.h"
#include "analysis/warnings.h"
#include "analysis/yardstick_judge.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

/// Places at which a variant is held against the choice.
constexpr int places_for_losses = 120;

/// The point of row `row` without each block that counts.
Interval point_interval(const SeriesCurve& curve, Eigen::Index row) {
  const double x = curve.all.points.x(row);
  Readings readings;
  for (const Curve* without : curve.without_counting_blocks()) {
    const Points& points = without->points;
    const auto same = std::find(points.x.begin(), points.x.end(), x);
    readings.push_back(same == points.x.end() ? std::nullopt
                                              : std::optional<double>(points.log_ms(same - points.x.begin())));
  }
  return around(curve.all.points.log_ms(row), half_width(curve, readings, 0, 1));
}

std::vector<PointFinding> points_of(const SeriesCurve& curve) {
  std::vector<PointFinding> points;
  for (Eigen::Index i = 0; i < curve.all.points.x.size(); ++i)
    points.push_back({curve.all.points.x(i), std::exp(curve.all.points.log_ms(i)), point_interval(curve, i),
                      curve.all.visits(i)});
  return points;
}

void read_exponent(SeriesFinding& finding) {
  if (!finding.curve.all.power) return;
  finding.exponent = finding.curve.all.power->exponent;
  Readings readings;
  for (const Curve* without : finding.curve.without_counting_blocks())
    readings.push_back(without->power ? std::optional<double>(without->power->exponent) : std::nullopt);
  if (const auto width = half_width(readings))
    finding.exponent_interval = {*finding.exponent - *width, *finding.exponent + *width};
}

void read_device_shares(const Scenario& scenario, SeriesFinding& series) {
  const VariantFacts* facts = scenario.find(series.series.variant);
  for (const CellDetail& detail : series.details) series.device_shares.push_back(facts == nullptr ? std::nullopt : device_share(detail, *facts));
}

/// Growth in percent for one percent more of the axis, at an end of the measured range; nothing at a single place.
std::optional<double> exponent_at_end(const Curve& curve, bool lower) {
  const double x = lower ? curve.least() : curve.most();
  if (curve.law) return curve.law->exponent_at(x);
  const Points& points = curve.points;
  if (points.x.size() < 2) return std::nullopt;
  const Eigen::Index i = lower ? 0 : points.x.size() - 2;
  return (points.log_ms(i + 1) - points.log_ms(i)) / std::log(points.x(i + 1) / points.x(i));
}

/// The cache that holds about as much as the entities at a knee take, by the memory of the visits there.
std::string cache_near(double bytes, const Machine& machine) {
  std::string nearest;
  double best = 2;
  for (const auto& [name, size] : machine.cache_bytes) {
    const double ratio = bytes > size ? bytes / size : size / bytes;
    if (ratio >= best) continue;
    best = ratio;
    nearest = name;
  }
  return nearest;
}

void find_knees(const Machine& machine, SeriesFinding& finding) {
  const auto& law = finding.curve.all.law;
  if (!law) return;
  for (std::size_t knee = 0; knee < law->knees.size(); ++knee) {
    Readings readings;
    for (const Curve* without : finding.curve.without_counting_blocks()) {
      const auto& other = without->law;
      const bool has_it = other && other->knees.size() == law->knees.size();
      readings.push_back(has_it ? std::optional<double>(std::log(other->knees[knee])) : std::nullopt);
    }
    KneeFinding found;
    found.at = law->knees[knee];
    found.interval = around(std::log(found.at), half_width(readings));
    if (law->coefficients[knee] > 0) found.slope_ratio = law->coefficients[knee + 1] / law->coefficients[knee];
    if (!finding.details.empty() && finding.details.back().bytes_per_entity)
      found.cache = cache_near(*finding.details.back().bytes_per_entity * found.at, machine);
    finding.knees.push_back(found);
  }
}

SeriesFinding find_series(const SeriesEvidence& evidence) {
  SeriesFinding finding;
  finding.series = evidence.series;
  finding.label = evidence.label;
  finding.rank = evidence.rank;
  finding.setup_ms = evidence.setup_ms;
  finding.curve = fit_series(evidence);
  finding.points = points_of(finding.curve);
  read_exponent(finding);
  finding.exponent_at_least = exponent_at_end(finding.curve.all, true);
  finding.exponent_at_most = exponent_at_end(finding.curve.all, false);
  return finding;
}

std::vector<SeriesFinding> find_all_series(const Evidence& evidence) {
  std::vector<SeriesFinding> all;
  for (const SeriesEvidence& one : evidence.series) {
    SeriesFinding finding = find_series(one);
    finding.series_of_variant = static_cast<int>(std::count_if(
        all.begin(), all.end(), [&](const SeriesFinding& earlier) { return earlier.rank == finding.rank; }));
    all.push_back(std::move(finding));
  }
  return all;
}

struct TailFinding {
  TailEvidence evidence;
  std::optional<SeriesCurve> curve;
};

std::vector<TailFinding> find_tails(const VisitsBySeries& visits, const Evidence& evidence) {
  std::vector<TailFinding> tails;
  for (const SeriesEvidence& series : evidence.series) {
    TailFinding tail{gather_tail(visits.of(series.series)), {}};
    tail.curve = fit_tail(series, evidence.blocks, tail.evidence);
    tails.push_back(std::move(tail));
  }
  return tails;
}

PlaceFinding place_at(double x, std::size_t index, const std::vector<SeriesFinding>& series) {
  const SeriesCurve& curve = series[index].curve;
  if (!curve.all.covers(x)) return {x, index, {}, {}};
  return {x, index, std::exp(curve.all.log_ms_at(x)), curve.ms_interval_at(x)};
}

std::vector<PlaceFinding> find_places(const Findings& findings) {
  std::vector<PlaceFinding> all;
  for (const double x : findings.at)
    for (std::size_t i = 0; i < findings.series.size(); ++i) all.push_back(place_at(x, i, findings.series));
  return all;
}

std::vector<CapacityFinding> find_capacities(const Findings& findings, const std::vector<TailFinding>& tails) {
  std::vector<CapacityFinding> all;
  for (const double budget_ms : findings.budgets_ms)
    for (std::size_t i = 0; i < findings.series.size(); ++i) {
      CapacityFinding finding{i, capacity(findings.series[i].curve, budget_ms), {}, 0};
      finding.tail_frames = tails[i].evidence.frames_near(finding.capacity.at.value_or(findings.series[i].curve.all.most()));
      if (tails[i].curve && finding.tail_frames >= frames_for_tail) finding.tail = capacity(*tails[i].curve, budget_ms);
      all.push_back(std::move(finding));
    }
  return all;
}

void check_variants(const Findings& findings, const std::vector<std::string>& names, const char* field) {
  for (const std::string& name : names) {
    const bool known = std::any_of(findings.series.begin(), findings.series.end(),
                                   [&](const SeriesFinding& series) { return is_called(series.series, name); });
    if (known) continue;
    std::string accepted = "variants of this study:";
    for (const SeriesFinding& series : findings.series) accepted += " " + series.series.variant;
    throw Error({.kind = FaultKind::usage, .field = field, .problem = "no such variant in the study", .found = name,
                 .accepted = accepted});
  }
}

/// Two builds are held against each other variant by variant.
bool is_comparable(const Series& one, const Series& other) { return one.build == other.build || one.variant == other.variant; }

std::optional<Divider> divider_of(const Findings& findings, std::size_t a, std::size_t b) {
  if (findings.axis != "count") return std::nullopt;
  const Knobs& one = findings.series[a].series.knobs;
  const Knobs& other = findings.series[b].series.knobs;
  for (const Knob& knob : findings.head.scenario.knobs)
    if (knob.divides && knob.numeric() && one.has(knob.name) && other.has(knob.name) && one.number(knob.name) == other.number(knob.name))
      return Divider{knob.name, one.number(knob.name)};
  return std::nullopt;
}

std::vector<PairFinding> find_pairs(const Findings& findings, const std::vector<std::string>& between) {
  std::vector<Series> series;
  for (const SeriesFinding& one : findings.series) series.push_back(one.series);
  std::vector<PairFinding> all;
  for (const auto& [a, b] : compared_pairs(series, findings.head.scenario, between))
    all.push_back({a, b, break_evens(Pair(findings.series[a].curve, findings.series[b].curve), findings.worth_ms),
                   divider_of(findings, a, b)});
  return all;
}

/// Round counts, one per decade that most series have measured; the three largest of them.
std::vector<double> usual_places(const std::vector<SeriesFinding>& series) {
  std::vector<double> ends;
  for (const SeriesFinding& one : series) ends.push_back(one.curve.all.most());
  const double last = std::pow(10.0, std::floor(std::log10(median(ends)) + 1e-9));
  std::vector<double> places;
  for (double x = last / 100; x <= last * 1.0001; x *= 10) places.push_back(std::round(x));
  return places;
}

/// Set-up time between the points, on log scales.
std::optional<double> setup_at(double x, const SeriesFinding& series) {
  for (std::size_t i = 0; i < series.points.size() && i < series.setup_ms.size(); ++i) {
    if (series.points[i].x < x) continue;
    if (i == 0 || series.points[i].x == x) return series.points[i].x == x ? series.setup_ms[i] : std::nullopt;
    const auto& below_ms = series.setup_ms[i - 1];
    const auto& above_ms = series.setup_ms[i];
    if (!below_ms || !above_ms || *below_ms <= 0 || *above_ms <= 0) return std::nullopt;
    const double share = std::log(x / series.points[i - 1].x) / std::log(series.points[i].x / series.points[i - 1].x);
    return *below_ms * std::pow(*above_ms / *below_ms, share);
  }
  return std::nullopt;
}

/// Set-up times, and how many frames earn back what a set-up takes more than the first one's.
void find_payback(double x, const std::vector<SeriesFinding>& series, CostFinding& finding) {
  for (CostFinding::Cost& cost : finding.costs) cost.setup_ms = setup_at(x, series[cost.series]);
  const auto first_setup_ms = finding.costs.front().setup_ms;
  for (CostFinding::Cost& cost : finding.costs)
    if (cost.setup_ms && first_setup_ms && *cost.setup_ms > *first_setup_ms && cost.saves_ms > 0)
      cost.payback_frames = std::ceil((*cost.setup_ms - *first_setup_ms) / cost.saves_ms);
}

CostFinding costs_at(double x, const std::vector<std::size_t>& members, const std::vector<SeriesFinding>& series) {
  CostFinding finding;
  finding.x = x;
  const SeriesCurve& first = series[members.front()].curve;
  for (const std::size_t member : members) {
    const SeriesCurve& curve = series[member].curve;
    CostFinding::Cost cost;
    cost.series = member;
    const PlaceFinding place = place_at(x, member, series);
    cost.ms = place.ms;
    cost.ms_interval = place.interval;
    if (member != members.front() && cost.ms && first.all.covers(x)) {
      const Difference difference = Pair(curve, first).at(x);
      cost.share = difference.ratio();
      cost.share_interval = difference.ratio_interval();
      cost.saves_ms = std::exp(first.all.log_ms_at(x)) - *cost.ms;
    }
    finding.costs.push_back(cost);
  }
  find_payback(x, series, finding);
  return finding;
}

/// What the choice of a group costs at a place; nothing outside its stretches.
const Stretch* stretch_at(const std::vector<Stretch>& stretches, double x) {
  for (const Stretch& stretch : stretches)
    if (x >= stretch.from && x <= stretch.to) return &stretch;
  return nullptr;
}

std::vector<Everywhere> find_everywhere(const GroupFinding& group, const std::vector<SeriesFinding>& series) {
  std::vector<Everywhere> all;
  for (const std::size_t member : group.members) {
    Everywhere worst{member, 0, series[member].curve.all.least(), 1};
    const Curve& curve = series[member].curve.all;
    for (const double x : places_between(curve.least(), curve.most(), places_for_losses)) {
      const Stretch* choice = stretch_at(group.stretches, x);
      if (choice == nullptr) continue;
      const double own_ms = std::exp(curve.log_ms_at(x));
      const double choice_ms = std::exp(series[choice->use].curve.all.log_ms_at(x));
      if (own_ms - choice_ms > worst.loses_ms) worst = {member, own_ms - choice_ms, x, own_ms / choice_ms};
    }
    all.push_back(worst);
  }
  return all;
}

std::vector<Advice> find_advice(const GroupFinding& group, const std::vector<double>& places) {
  std::vector<Advice> all;
  for (const double x : places)
    for (std::size_t i = 0; i < group.stretches.size(); ++i) {
      const Stretch& here = group.stretches[i];
      if (x < here.from || x > here.to) continue;
      Advice advice{x, here.use, here.matters, here.fits, {}, 0};
      for (std::size_t later = i + 1; later < group.stretches.size() && !advice.next; ++later)
        if (group.stretches[later].use != here.use) {
          advice.next = group.stretches[later].use;
          advice.next_from = group.stretches[later].from;
        }
      all.push_back(advice);
      break;
    }
  return all;
}

std::vector<AgainstFinding> find_against(const Findings& findings, const std::string& variant) {
  std::vector<AgainstFinding> all;
  for (std::size_t b = 0; b < findings.series.size(); ++b)
    for (std::size_t a = 0; a < findings.series.size(); ++a) {
      const SeriesFinding& one = findings.series[a];
      const SeriesFinding& other = findings.series[b];
      if (!is_called(other.series, variant) || is_called(one.series, variant) || !is_comparable(one.series, other.series) || !same_conditions(one.series, other.series, findings.head.scenario)) continue;
      const Pair pair(one.curve, other.curve);
      AgainstFinding finding{a, b, {}};
      for (const PointFinding& point : one.points) {
        if (!other.curve.all.covers(point.x)) continue;
        const Difference difference = pair.at(point.x);
        finding.places.push_back({point.x, difference.ratio(), difference.ratio_interval(), pair.saves_ms(point.x)});
      }
      all.push_back(std::move(finding));
    }
  return all;
}

GroupFinding find_group(const Group& group, const Findings& findings, const std::vector<double>& places) {
  GroupFinding finding{group.conditions, group.members, {}, {}, {}, {}};
  std::stable_sort(finding.members.begin(), finding.members.end(),
                   [&](std::size_t a, std::size_t b) { return findings.series[a].rank < findings.series[b].rank; });
  std::vector<const SeriesCurve*> curves;
  for (const std::size_t member : finding.members) curves.push_back(&findings.series[member].curve);
  finding.stretches = choose(curves, findings.budgets_ms.front(), findings.worth_ms);
  for (Stretch& stretch : finding.stretches) stretch.use = finding.members[stretch.use];
  for (const double x : places) finding.costs.push_back(costs_at(x, finding.members, findings.series));
  finding.everywhere = find_everywhere(finding, findings.series);
  finding.advice = find_advice(finding, places);
  return finding;
}

std::vector<GroupFinding> find_groups(const Findings& findings, const std::vector<double>& at) {
  std::vector<Series> series;
  for (const SeriesFinding& one : findings.series) series.push_back(one.series);
  const std::vector<double> places = at.empty() ? usual_places(findings.series) : at;
  std::vector<GroupFinding> all;
  for (const Group& group : groups_of(series, findings.head.scenario)) all.push_back(find_group(group, findings, places));
  return all;
}

std::vector<BoundFinding> find_bounds(const Study& study) {
  std::map<std::pair<std::string, std::string>, std::map<double, double>> bounds;
  const std::vector<Series> series = series_of(study);
  for (const Visit& visit : study.visits)
    if (visit.status == VisitStatus::bound) {
      double& most_ms = bounds[{label_of(visit.series, series), visit.failure}][visit.place()];
      most_ms = std::max(most_ms, typical_frame_ms(visit));
    }
  std::vector<BoundFinding> all;
  for (const auto& [whose, cells] : bounds)
    for (const auto& [x, ms] : cells) all.push_back({whose.first, x, ms, whose.second});
  return all;
}

[[noreturn]] void refuse_without_evidence(const Study& study) {
  const auto told = std::find_if(study.visits.begin(), study.visits.end(), [](const Visit& visit) { return !visit.failure.empty(); });
  throw Error({.file = study.name, .problem = "the study holds no finished visit to answer from" + (told == study.visits.end() ? "" : "; " + told->failure),
               .accepted = "a study with at least one kept visit"});
}

}  // namespace

Findings analyse(const Study& given, const Questions& questions) {
  const Study study = told_by_runs(along(given, questions.axis));
  const Evidence evidence = gather_evidence(study, questions.within_runs);
  if (evidence.series.empty())
    refuse_without_evidence(study);
  Findings findings;
  findings.study = study.name;
  findings.head = study.head;
  findings.axis = questions.axis;
  findings.blocks = evidence.blocks.size();
  findings.runs = runs_of(given);
  findings.budgets_ms = questions.budgets_ms;
  if (findings.budgets_ms.empty()) findings.budgets_ms.push_back(study.head.plan.budget_ms);
  findings.at = questions.at;
  findings.worth_ms = questions.worth_share * findings.budgets_ms.front();
  findings.failures = evidence.failures;
  findings.bounds = find_bounds(study);
  findings.agreements = agreements_of(given);
  findings.quiet = quietness_of(study);
  findings.visits = findings.quiet.kept;

  findings.series = find_all_series(evidence);
  const VisitsBySeries visits(evidence_visits(study));
  for (SeriesFinding& series : findings.series) {
    series.details = details_of(visits.of(series.series));
    read_device_shares(study.head.scenario, series);
    find_knees(findings.head.machine, series);
  }
  check_variants(findings, questions.between, "between");
  if (!questions.against.empty()) check_variants(findings, {questions.against}, "against");
  findings.places = find_places(findings);
  findings.capacities = find_capacities(findings, find_tails(visits, evidence));
  if (questions.compares) findings.pairs = find_pairs(findings, questions.between);
  if (!questions.against.empty()) findings.against = find_against(findings, questions.against);
  if (questions.compares) findings.groups = find_groups(findings, questions.at);
  findings.warnings = warnings_of(findings, study);
  return findings;
}

}  // namespace mileage
