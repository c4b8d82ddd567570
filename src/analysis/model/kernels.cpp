#include "analysis/model/kernels.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <tuple>

#include "analysis/model/priors.h"
#include "types/order_statistics.h"

namespace mileage {
namespace {

using Eigen::ArrayXd;
using Eigen::Index;
using Eigen::MatrixXd;

template <class Cell>
MatrixXd by_cell(Index rows, Index columns, bool is_symmetric, const Cell& cell) {
  MatrixXd matrix(rows, columns);
  for (Index column = 0; column < columns; ++column)
    for (Index row = is_symmetric ? column : 0; row < rows; ++row) matrix(row, column) = cell(row, column);
  if (is_symmetric) matrix.triangularView<Eigen::StrictlyUpper>() = matrix.transpose();
  return matrix;
}

/// Integrated Wiener process from 0 with slope 0, in both directions.
double integrated_wiener(double one, double other) {
  if (one * other <= 0) return 0;
  const double near = std::min(std::fabs(one), std::fabs(other)), far = std::max(std::fabs(one), std::fabs(other));
  return near * near * (far / 2 - near / 6);
}

double straight_line(double one, double other) {
  return prior::height_sd * prior::height_sd + prior::slope_sd * prior::slope_sd * one * other;
}

double square(double value) { return value * value; }

}  // namespace

Inputs Inputs::of(const std::vector<Index>& rows) const {
  Inputs some;
  some.series = series(rows);
  some.block = block(rows);
  some.kind = kind(rows);
  some.t = t(rows);
  some.log_ms = log_ms(rows);
  some.order = order(rows);
  some.waiting = waiting(rows);
  some.running = running(rows);
  some.slowdown = slowdown(rows);
  some.slowdown_variance = slowdown_variance(rows);
  some.process = process(rows);
  some.shared_sd = shared_sd(rows);
  some.runs = runs(rows);
  some.are_probed = are_probed;
  some.middle = middle;
  some.full_speed_sd = full_speed_sd;
  return some;
}

Inputs inputs_of(const std::vector<ModelRow>& rows, const LatentSlowdowns& latent) {
  const auto size = static_cast<Index>(rows.size());
  Inputs inputs;
  for (auto* array : {&inputs.series, &inputs.block}) array->resize(size);
  for (auto* array : {&inputs.t, &inputs.log_ms, &inputs.order, &inputs.waiting, &inputs.running, &inputs.shared_sd})
    array->resize(size);
  inputs.runs.setOnes(size);
  inputs.are_probed = std::any_of(rows.begin(), rows.end(), [](const ModelRow& row) { return row.probes.has_value(); });
  inputs.process.resize(size);
  std::vector<double> places;
  std::set<int> blocks;
  for (const ModelRow& row : rows) {
    places.push_back(row.log_x);
    blocks.insert(row.block);
  }
  inputs.middle = median(places);
  // Drift is per block: orders are counted in blocks.
  const double rows_of_block = std::max(4.0, static_cast<double>(size) / static_cast<double>(blocks.size()));
  for (Index i = 0; i < size; ++i) {
    const ModelRow& row = rows[static_cast<std::size_t>(i)];
    inputs.series(i) = row.series;
    inputs.block(i) = row.block;
    inputs.t(i) = row.log_x - inputs.middle;
    inputs.log_ms(i) = row.log_ms;
    inputs.order(i) = row.order / rows_of_block;
    inputs.process(i) = row.process;
    inputs.waiting(i) = row.waiting;
    inputs.running(i) = row.running;
    inputs.shared_sd(i) = row.shared_sd;
  }
  inputs.kind = latent.kind;
  inputs.slowdown = latent.mean.array() * inputs.running;  // Blocked time is not stretched.
  inputs.slowdown_variance = latent.variance.array() * inputs.running.square();
  inputs.full_speed_sd = latent.full_speed_sd;
  return inputs;
}

namespace {

/// Student-t weighted, so that outliers count little.
double robust_mean(const ArrayXd& log_ms) {
  std::vector<double> sorted(log_ms.begin(), log_ms.end());
  double middle = median(sorted);
  for (double& one : sorted) one = std::fabs(one - middle);
  const double sd = std::max(median(sorted) / 0.6745, prior::noise.median / 4);  // Of a normal distribution.
  for (int pass = 0; pass < 5; ++pass) {                                         // Converges after three.
    const ArrayXd weight = 1 / (prior::noise_df + ((log_ms - middle) / sd).square());
    middle = (weight * log_ms).sum() / weight.sum();
  }
  return middle;
}

}  // namespace

Inputs Inputs::condensed(Index rows) const {
  if (size() <= rows) return *this;
  std::map<std::tuple<int, double, int, std::int64_t>, std::vector<Index>> cells;
  for (Index i = 0; i < size(); ++i) cells[{series(i), t(i), kind(i), process(i)}].push_back(i);
  std::vector<std::vector<Index>> groups;
  for (auto& [cell, of_cell] : cells) {
    std::stable_sort(of_cell.begin(), of_cell.end(), [&](Index a, Index b) { return slowdown(a) < slowdown(b); });
    const std::size_t parts = std::clamp<std::size_t>(
        of_cell.size() * static_cast<std::size_t>(rows) / static_cast<std::size_t>(size()), 1, of_cell.size());
    for (std::size_t part = 0; part < parts; ++part)
      groups.emplace_back(of_cell.begin() + static_cast<std::ptrdiff_t>(part * of_cell.size() / parts),
                          of_cell.begin() + static_cast<std::ptrdiff_t>((part + 1) * of_cell.size() / parts));
  }
  std::vector<Index> first;
  for (const auto& group : groups) first.push_back(group.front());
  Inputs means = of(first);
  for (std::size_t i = 0; i < groups.size(); ++i) {
    const auto row = static_cast<Index>(i);
    const std::vector<Index>& group = groups[i];
    means.log_ms(row) = robust_mean(log_ms(group));
    means.order(row) = order(group).mean();
    means.waiting(row) = waiting(group).mean();
    means.running(row) = running(group).mean();
    means.slowdown(row) = slowdown(group).mean();
    means.slowdown_variance(row) = slowdown_variance(group).mean();
    means.shared_sd(row) = shared_sd(group).mean();
    means.runs(row) = static_cast<double>(group.size());
  }
  return means;
}

double beyond_knee(double slowdown) { return std::max(slowdown - prior::response_knee, 0.0); }

double expected_response(double slowdown) {
  return prior::response_mean * std::min(slowdown, prior::response_knee) +
         prior::far_response_mean * beyond_knee(slowdown);
}

double response_covariance(double one, double other) {
  const double tiny = 1e-4;  // Two runs at full speed are alike.
  const double a = std::fabs(one) + tiny, b = std::fabs(other) + tiny;
  return one * other * (1 - prior::response_change + prior::response_change * std::min(a, b) / std::max(a, b));
}

Terms terms_of(const Inputs& rows, const Inputs& others) {
  const auto matrix = [&](const auto& cell) { return by_cell(rows.size(), others.size(), &rows == &others, cell); };
  const auto is_same = [&](Index i, Index j) { return rows.series(i) == others.series(j); };
  const MatrixXd response =
      matrix([&](Index i, Index j) { return response_covariance(rows.slowdown(i), others.slowdown(j)); });
  const MatrixXd drift = matrix([&](Index i, Index j) {
    const double blocks = std::fabs(rows.order(i) - others.order(j));
    return ((rows.block(i) == others.block(j) ? 1 : 0) + std::exp(-blocks / prior::drift_blocks)) / 2;
  });
  const ArrayXd beyond = rows.slowdown.unaryExpr(&beyond_knee), beyond_others = others.slowdown.unaryExpr(&beyond_knee);
  Terms terms;
  terms.fixed = matrix([&](Index i, Index j) {
    const double waiting = std::min(rows.waiting(i), others.waiting(j));
    const bool is_one_process = rows.process(i) >= 0 && rows.process(i) == others.process(j);
    return square(prior::response_sd) * response(i, j) + square(prior::waiting_response_sd) * waiting +
           square(prior::far_response_sd) * beyond(i) * beyond_others(j) +
           (is_same(i, j)
                ? straight_line(rows.t(i), others.t(j)) + square(prior::response_of_variant_sd) * response(i, j) +
                      square(prior::waiting_response_of_variant_sd) * waiting + rows.shared_sd(i) * others.shared_sd(j)
                : 0) +
           (is_one_process ? square(prior::luck_of_process(rows.are_probed)) : 0);
  });
  terms.bend = matrix([&](Index i, Index j) { return is_same(i, j) ? integrated_wiener(rows.t(i), others.t(j)) : 0; });
  terms.response_count = matrix([&](Index i, Index j) {
    return is_same(i, j) ? std::exp(-0.5 * square((rows.t(i) - others.t(j)) / prior::response_length)) * response(i, j)
                         : 0;
  });
  terms.drift_variant = matrix([&](Index i, Index j) { return is_same(i, j) ? drift(i, j) : 0; });
  terms.drift = drift;
  return terms;
}

Eigen::VectorXd expected_log_ms(const Inputs& in) {
  return prior::slope_mean * in.t + prior::waiting_response_mean * in.waiting +
         in.slowdown.unaryExpr(&expected_response);
}

Eigen::MatrixXd curve_covariance(const CurvePlaces& one, const CurvePlaces& other, double bend) {
  MatrixXd covariance(one.t.size(), other.t.size());
  for (Index j = 0; j < other.t.size(); ++j)
    for (Index i = 0; i < one.t.size(); ++i)
      covariance(i, j) = one.series(i) != other.series(j) ? 0
                                                          : straight_line(one.t(i), other.t(j)) +
                                                                bend * bend * integrated_wiener(one.t(i), other.t(j));
  return covariance;
}

Eigen::VectorXd expected_curve(const CurvePlaces& places) { return prior::slope_mean * places.t; }

Eigen::VectorXd above_step(const CurvePlaces& places, const ModelStep& step) {
  const double middle = (step.from + step.to) / 2;
  return ((places.series == step.series) && (places.t > middle)).cast<double>();
}

}  // namespace mileage
