#include "analysis/answers/tuning.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <random>
#include <set>

#include <Eigen/Core>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/difference.h"
#include "analysis/statistics/constants.h"
#include "analysis/statistics/least_squares.h"
#include "types/error.h"
#include "types/scenario_knobs.h"

namespace mileage {
namespace {

constexpr const char* workers_knob = "workers";

const KnobValue* value_of(const Series& series, const std::string& knob) {
  const auto found = series.knobs.values().find(knob);
  return found == series.knobs.values().end() ? nullptr : &found->second;
}

/// A series without these knobs: what must be equal for values to be held against each other.
Series rest_of(const Series& series, const std::vector<std::string>& knobs) {
  Series rest{series.variant, {}, series.cold_bytes, series.build, series.without};
  for (const auto& [name, value] : series.knobs.values())
    if (std::find(knobs.begin(), knobs.end(), name) == knobs.end()) rest.knobs.set(name, value);
  return rest;
}

/// Knobs in which series of one variant differ.
std::vector<std::string> differing_knobs(const EvidenceSet& evidence) {
  std::map<std::pair<std::string, std::string>, std::set<KnobValue>> values;
  for (const SeriesEvidence& one : evidence.series)
    for (const auto& [name, value] : one.series.knobs.values()) values[{one.series.variant, name}].insert(value);
  std::vector<std::string> knobs;
  for (const auto& [of, several] : values)
    if (several.size() > 1 && std::find(knobs.begin(), knobs.end(), of.second) == knobs.end())
      knobs.push_back(of.second);
  return knobs;
}

/// The series that differ in the knobs alone, by their values; the most of them that there are.
std::vector<std::size_t> family(const EvidenceSet& evidence, const std::vector<std::string>& knobs) {
  std::vector<std::pair<Series, std::vector<std::size_t>>> families;
  for (std::size_t i = 0; i < evidence.series.size(); ++i) {
    const Series& series = evidence.series[i].series;
    const bool has_all = std::all_of(knobs.begin(), knobs.end(),
                                     [&](const std::string& knob) { return value_of(series, knob) != nullptr; });
    if (!has_all || series.is_floor()) continue;
    const Series rest = rest_of(series, knobs);
    auto known = std::find_if(families.begin(), families.end(), [&](const auto& one) { return one.first == rest; });
    if (known == families.end()) known = families.insert(families.end(), {rest, {}});
    known->second.push_back(i);
  }
  std::vector<std::size_t> largest;
  for (const auto& [rest, members] : families)
    if (members.size() > largest.size()) largest = members;
  std::stable_sort(largest.begin(), largest.end(), [&](std::size_t a, std::size_t b) {
    for (const std::string& knob : knobs) {
      const KnobValue& one = *value_of(evidence.series[a].series, knob);
      const KnobValue& other = *value_of(evidence.series[b].series, knob);
      if (one != other) return one < other;
    }
    return false;
  });
  return largest;
}

bool is_measured_at(const SeriesCurve& curve, double x) { return curve.all.point_at(x).has_value(); }

std::vector<double> places_of(const Analysis& analysis, const std::vector<std::size_t>& members,
                              const Questions& questions) {
  std::map<double, std::size_t> values;
  for (const std::size_t member : members)
    for (Eigen::Index i = 0; i < analysis.curves[member].all.points.x.size(); ++i)
      ++values[analysis.curves[member].all.points.x(i)];
  std::vector<double> places;
  for (const auto& [x, number] : values) {
    const bool is_asked = questions.at.empty()
                              ? number >= values_to_tune
                              : std::find(questions.at.begin(), questions.at.end(), x) != questions.at.end();
    if (is_asked && number > 1) places.push_back(x);
  }
  return places;
}

/// Blocks are left out of both at once.
Difference difference_at(const Analysis& analysis, const TunedValue& one, const TunedValue& other, double x) {
  const Pair pair(analysis.curves[one.series], analysis.curves[other.series]);
  const auto measured = pair.measured_at(x);
  return measured ? *measured : pair.at(x);
}

/// A value that is clearly dearer than any other is not the best, whichever of the others is.
bool may_be_best(const Analysis& analysis, const TunedAt& at, const TunedValue& one) {
  const std::size_t verdicts = std::max<std::size_t>(1, at.values.size() - 1);
  return std::none_of(at.values.begin(), at.values.end(), [&](const TunedValue& other) {
    if (&other == &one || other.cost.ms >= one.cost.ms) return false;
    const Difference difference = difference_at(analysis, one, other, at.x);
    return difference.is_clear(verdicts) && difference.log_ratio > 0;
  });
}

void hold_against_best(const Analysis& analysis, TunedAt& at, double worth_share) {
  const std::size_t verdicts = std::max<std::size_t>(1, at.values.size() - 1);
  for (TunedValue& one : at.values) {
    const bool is_best = &one == &at.values[at.best];
    if (!is_best) {
      const Difference difference = difference_at(analysis, one, at.values[at.best], at.x);
      one.share = difference.ratio();
      if (std::isfinite(difference.error))
        one.share_interval =
            interval_from_log(difference.log_ratio, t_factor(difference.blocks, verdicts) * difference.error);
    }
    one.may_be_best = is_best || may_be_best(analysis, at, one);
    one.is_as_good = one.may_be_best || one.share_interval.low.value_or(one.share) <= 1 + worth_share;
  }
}

/// By the upper ends of their intervals: a value that was measured badly is not the best for being low once.
double surely_at_most(const CostReading& cost) { return cost.interval.high.value_or(HUGE_VAL); }

template <class Holds>
ValueStretch stretch_around(const TunedAt& at, Holds holds) {
  std::size_t from = at.best, to = at.best;
  while (from > 0 && holds(at.values[from - 1])) --from;
  while (to + 1 < at.values.size() && holds(at.values[to + 1])) ++to;
  return {at.values[from].values.front(), at.values[to].values.front()};
}

TunedAt tuned_at(const Analysis& analysis, const std::vector<std::size_t>& members,
                 const std::vector<std::string>& knobs, double x, double worth_share) {
  const EvidenceSet& evidence = analysis.evidence;
  TunedAt at;
  at.x = x;
  for (const std::size_t member : members) {
    if (!is_measured_at(analysis.curves[member], x)) continue;
    const Series& series = evidence.series[member].series;
    TunedValue one{member, {}, *analysis.curves[member].cost_at(x)};
    for (const std::string& knob : knobs) one.values.push_back(*value_of(series, knob));
    one.is_preset = std::all_of(knobs.begin(), knobs.end(), [&](const std::string& knob) {
      return is_preset(evidence.head.scenario, series.variant, knob, *value_of(series, knob));
    });
    if (one.is_preset) at.preset = at.values.size();
    at.values.push_back(std::move(one));
  }
  for (std::size_t i = 0; i < at.values.size(); ++i)
    if (std::pair(surely_at_most(at.values[i].cost), at.values[i].cost.ms) <
        std::pair(surely_at_most(at.values[at.best].cost), at.values[at.best].cost.ms))
      at.best = i;
  hold_against_best(analysis, at, worth_share);
  const bool is_numeric = knobs.size() == 1 && std::holds_alternative<double>(at.values.front().values.front());
  if (is_numeric) {
    at.best_between = stretch_around(at, [](const TunedValue& one) { return one.may_be_best; });
    at.plateau = stretch_around(at, [](const TunedValue& one) { return one.is_as_good; });
  }
  return at;
}

/// Log times against workers as one of the curves of each member tells them.
struct WorkerTimes {
  std::vector<double> workers;
  std::vector<double> ms;
};

/// Coefficients that are not negative, of least squares: the best of all choices of terms whose solution has none
/// below zero.
Eigen::Vector3d non_negative(const Eigen::MatrixXd& terms, const Eigen::VectorXd& target) {
  Eigen::Vector3d best = Eigen::Vector3d::Zero();
  double least = target.squaredNorm();
  for (int choice = 1; choice < 8; ++choice) {
    std::vector<Eigen::Index> taken;
    for (int term = 0; term < 3; ++term)
      if ((choice >> term) & 1) taken.push_back(term);
    Eigen::MatrixXd chosen(terms.rows(), static_cast<Eigen::Index>(taken.size()));
    for (std::size_t i = 0; i < taken.size(); ++i) chosen.col(static_cast<Eigen::Index>(i)) = terms.col(taken[i]);
    const Eigen::VectorXd found = LeastSquares(chosen)(target);
    const double squares = (chosen * found - target).squaredNorm();
    if (found.minCoeff() < 0 || squares >= least) continue;
    least = squares;
    best.setZero();
    for (std::size_t i = 0; i < taken.size(); ++i) best(taken[i]) = found(static_cast<Eigen::Index>(i));
  }
  return best;
}

/// Coefficients of T(w) = serial + parallel / w + contention (w - 1), each relative to T(1), none negative.
Eigen::Vector3d fit_scaling(const WorkerTimes& times) {
  const auto rows = static_cast<Eigen::Index>(times.workers.size());
  Eigen::MatrixXd terms(rows, 3);
  Eigen::VectorXd ones = Eigen::VectorXd::Ones(rows);
  // Each row divided by its time: relative residuals, which are what log residuals come to.
  for (Eigen::Index i = 0; i < rows; ++i) {
    const double w = times.workers[static_cast<std::size_t>(i)];
    const double ms = times.ms[static_cast<std::size_t>(i)];
    terms.row(i) << 1 / ms, 1 / w / ms, (w - 1) / ms;
  }
  const Eigen::Vector3d found = non_negative(terms, ones);
  const double of_one = found(0) + found(1);
  return of_one > 0 ? Eigen::Vector3d(found / of_one) : Eigen::Vector3d(1, 0, 0);
}

double scaled_time(const Eigen::Vector3d& of, double workers) {
  return of(0) + of(1) / workers + of(2) * (workers - 1);
}

/// 95 % half-width of a value's log time that leaving out blocks does not show.
double doubt_beside_blocks(const SeriesCurve& curve, double x) {
  return std::hypot(std::hypot(normal_95 * curve.adjustment.slope_error(), curve.load_doubt), curve.doubt_at(x),
                    t_factor(assumed_blocks) * curve.between_runs);
}

/// Times of all values, with the curves of all blocks or without one.
WorkerTimes times_at(const Analysis& analysis, const TunedAt& at, std::optional<std::size_t> without) {
  WorkerTimes times;
  for (const TunedValue& one : at.values) {
    const SeriesCurve& curve = analysis.curves[one.series];
    const Curve& of = without ? curve.without[*without] : curve.all;
    times.workers.push_back(std::get<double>(one.values.front()));
    times.ms.push_back(std::exp(of.log_ms_at(at.x)));
  }
  return times;
}

/// How far log times lie from their mean without each block: a column for each block that counts. What blocks do to all
/// values stays together.
Eigen::MatrixXd moved_by_blocks(const Analysis& analysis, const TunedAt& at) {
  const SeriesCurve& first = analysis.curves[at.values.front().series];
  const auto values = static_cast<Eigen::Index>(at.values.size());
  Eigen::MatrixXd moved(values, 0);
  for (std::size_t block = 0; block < first.without.size(); ++block) {
    if (!first.block_counts[block]) continue;
    const WorkerTimes times = times_at(analysis, at, block);
    moved.conservativeResize(Eigen::NoChange, moved.cols() + 1);
    moved.rightCols(1) = Eigen::Map<const Eigen::VectorXd>(times.ms.data(), values).array().log();
  }
  return moved.colwise() - moved.rowwise().mean().eval();
}

/// Degrees of freedom of a serial share of which each value's error rests on its own blocks (F. E. Satterthwaite, "An
/// approximate distribution of estimates of variance components", Biometrics Bulletin 2, 1946).
int degrees_of_serial(const WorkerTimes& times, const Eigen::MatrixXd& moved_by_blocks) {
  double variances = 0, of_variances = 0;
  for (std::size_t i = 0; i < times.ms.size(); ++i) {
    const double error = moved_by_blocks.row(static_cast<Eigen::Index>(i)).norm();
    WorkerTimes up = times, down = times;
    up.ms[i] *= std::exp(error);
    down.ms[i] /= std::exp(error);
    const double variance = std::pow(fit_scaling(up)(0) - fit_scaling(down)(0), 2);
    variances += variance;
    of_variances += variance * variance;
  }
  const auto of_one = static_cast<double>(moved_by_blocks.cols() - 1);
  return static_cast<int>(of_variances > 0 ? of_one * variances * variances / of_variances : of_one);
}

/// 95 % of the serial shares that come out when log times move by all that is in doubt of them: by what leaving out
/// blocks shows, by how unlike values may respond to a busy machine, each by itself, and by the fast level, which is
/// the same for all. Drawn, since the share has ends at 0 and 1 that errors do not know.
Interval serial_interval(const Analysis& analysis, const TunedAt& at, const WorkerTimes& times,
                         const Eigen::MatrixXd& moved_by_blocks) {
  const auto blocks = static_cast<double>(moved_by_blocks.cols());
  const double of_blocks =
      std::sqrt((blocks - 1) / blocks) * t_quantile(0.975, degrees_of_serial(times, moved_by_blocks)) / normal_95;
  std::mt19937_64 random(serial_draws);
  std::normal_distribution<double> normal;
  std::vector<double> shares;
  for (int draw = 0; draw < serial_draws; ++draw) {
    const Eigen::VectorXd moved =
        of_blocks *
        (moved_by_blocks * Eigen::VectorXd::NullaryExpr(moved_by_blocks.cols(), [&] { return normal(random); }));
    const double level = normal(random);
    WorkerTimes drawn = times;
    for (std::size_t i = 0; i < at.values.size(); ++i) {
      const SeriesCurve& curve = analysis.curves[at.values[i].series];
      const double own = doubt_beside_blocks(curve, at.x) / normal_95 * normal(random);
      drawn.ms[i] *= std::exp(moved(static_cast<Eigen::Index>(i)) + own +
                              level * curve.adjustment.slope * curve.fast_level_deviation);
    }
    shares.push_back(fit_scaling(drawn)(0));
  }
  std::sort(shares.begin(), shares.end());
  const std::size_t beyond = shares.size() / 40;
  return {shares[beyond], std::min(1.0, shares[shares.size() - 1 - beyond])};
}

Scaling scaling_at(const Analysis& analysis, const TunedAt& at) {
  Scaling scaling;
  scaling.x = at.x;
  scaling.values = at.values.size();
  const WorkerTimes times = times_at(analysis, at, {});
  const Eigen::Vector3d found = fit_scaling(times);
  scaling.serial = found(0);
  scaling.contention = found(2);
  const Eigen::MatrixXd by_blocks = moved_by_blocks(analysis, at);
  if (at.values.size() >= values_for_scaling && by_blocks.cols() >= 3)
    scaling.serial_interval = serial_interval(analysis, at, times, by_blocks);
  while (scaling.useful_workers < most_useful_workers &&
         scaled_time(found, scaling.useful_workers + 1) <
             (1 - least_saved_by_a_worker) * scaled_time(found, scaling.useful_workers))
    ++scaling.useful_workers;
  return scaling;
}

/// How many workers worked at a cell.
std::optional<Workers> workers_at(const EvidenceSet& evidence, std::size_t series, double x, double asked) {
  Workers workers{series, x, asked, 0, false, true};
  int visits = 0;
  for (const JudgedVisit* one : evidence.series[series].visits) {
    if (one->x != x) continue;
    double worked = 0;
    if (one->visit->work) {
      workers.by_notes = true;
      for (const double batches : one->visit->work->batches) worked += batches > 0;
    } else if (one->visit->processor_ms) {
      worked = *one->visit->processor_ms / measured_wall_ms(*one->visit);
    } else {
      continue;
    }
    workers.worked = std::max(workers.worked, worked);
    ++visits;
  }
  if (visits == 0) return std::nullopt;
  // By notes: fewer may have got a batch where there are few. More than were asked for, or fewer although each had one:
  const bool is_more = workers.worked > asked * (workers.by_notes ? 1 : 1 + workers_within);
  workers.is_honoured = !is_more && (workers.by_notes ? workers.worked >= asked : workers.worked >= asked * mostly);
  return workers;
}

void tell_of_workers(const Analysis& analysis, TuningAnswer& answer) {
  if (answer.knobs != std::vector<std::string>{workers_knob}) return;
  for (const TunedAt& at : answer.places) {
    if (at.values.size() >= values_to_tune) answer.scaling.push_back(scaling_at(analysis, at));
    for (const TunedValue& one : at.values)
      if (const double* asked = std::get_if<double>(&one.values.front()))
        if (const auto workers = workers_at(analysis.evidence, one.series, at.x, *asked))
          answer.workers.push_back(*workers);
  }
}

}  // namespace

TuningAnswer tuning_answer(const Analysis& analysis, const std::vector<std::string>& knobs,
                           const Questions& questions) {
  TuningAnswer answer;
  const std::vector<std::string> known = differing_knobs(analysis.evidence);
  answer.knobs = knobs.empty() ? known : knobs;
  answer.worth_share = questions.worth_share;
  for (const std::string& knob : answer.knobs)
    if (std::find(known.begin(), known.end(), knob) == known.end())
      throw Error({.kind = FaultKind::usage,
                   .field = "knob",
                   .problem = "nothing was measured over this knob",
                   .found = knob,
                   .accepted = known.empty() ? "a study with several values of a knob"
                                             : fmt::format("{}", fmt::join(known, ", "))});
  if (answer.knobs.empty()) return answer;
  const std::vector<std::size_t> members = family(analysis.evidence, answer.knobs);
  for (const double x : places_of(analysis, members, questions))
    answer.places.push_back(tuned_at(analysis, members, answer.knobs, x, questions.worth_share));
  tell_of_workers(analysis, answer);
  return answer;
}

}  // namespace mileage
