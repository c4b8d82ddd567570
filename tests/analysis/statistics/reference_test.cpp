// Fits against those of an independent statistics package: tests/reference holds the tables, the script in R that
// fitted them, and what it found.
#include <cmath>
#include <fstream>
#include <map>
#include <sstream>
#include <string>
#include <vector>

#include <gmock/gmock.h>

#include "analysis/statistics/laws.h"
#include "analysis/statistics/statistics.h"

namespace mileage {
namespace {

const std::map<std::string, LawKind> laws{
    {"linear", LawKind::linear},       {"n_log_n", LawKind::n_log_n},
    {"quadratic", LawKind::quadratic}, {"linear_and_quadratic", LawKind::linear_and_quadratic},
    {"power", LawKind::power},         {"one_knee", LawKind::one_knee}};

/// Rows of a reference file without its header, cut at commas.
std::vector<std::vector<std::string>> rows_of(const std::string& name) {
  std::ifstream file(std::string(MILEAGE_SOURCE_DIR) + "/tests/reference/" + name);
  std::vector<std::vector<std::string>> rows;
  std::string line;
  std::getline(file, line);
  while (std::getline(file, line)) {
    std::vector<std::string> fields;
    std::istringstream stream(line);
    for (std::string field; std::getline(stream, field, ',');) fields.push_back(field);
    rows.push_back(fields);
  }
  return rows;
}

struct PlacesAndBlocks {
  std::vector<double> x;
  Eigen::ArrayXXd log_ms;  // rows: places, columns: blocks
};

PlacesAndBlocks table_named(const std::string& name) {
  std::map<double, std::vector<double>> by_place;
  for (const auto& row : rows_of("tables.csv"))
    if (row[0] == name) by_place[std::stod(row[1])].push_back(std::log(std::stod(row[3])));
  PlacesAndBlocks table;
  table.log_ms.resize(static_cast<Eigen::Index>(by_place.size()),
                      static_cast<Eigen::Index>(by_place.begin()->second.size()));
  for (const auto& [x, values] : by_place) {
    table.log_ms.row(static_cast<Eigen::Index>(table.x.size())) =
        Eigen::Map<const Eigen::ArrayXd>(values.data(), static_cast<Eigen::Index>(values.size())).transpose();
    table.x.push_back(x);
  }
  return table;
}

Points points_of(const PlacesAndBlocks& table, Eigen::Index left_out = -1) {
  Eigen::ArrayXXd cells(table.log_ms.rows(), 0);
  for (Eigen::Index block = 0; block < table.log_ms.cols(); ++block) {
    if (block == left_out) continue;
    cells.conservativeResize(Eigen::NoChange, cells.cols() + 1);
    cells.col(cells.cols() - 1) = table.log_ms.col(block);
  }
  const auto places = Eigen::Map<const Eigen::ArrayXd>(table.x.data(), static_cast<Eigen::Index>(table.x.size()));
  return {places, cells.rowwise().mean(), Eigen::ArrayXd::Ones(places.size())};
}

std::map<std::string, double> parameters_of(const Law& law) {
  std::map<std::string, double> named{{"fixed", law.fixed_ms}, {"slope", law.coefficients[0]}};
  if (law.coefficients.size() > 1) named["second"] = law.coefficients[1];
  if (law.kind == LawKind::power) named["exponent"] = law.exponent;
  if (!law.knees.empty()) named["knee"] = law.knees[0];
  return named;
}

/// Everything that the reference states of one table.
std::map<std::string, double> found_by_us(const std::string& name) {
  const LawKind kind = laws.at(name);
  const PlacesAndBlocks table = table_named(name);
  const LawFit fit = fit_law(kind, points_of(table)).value();
  std::map<std::string, double> found = parameters_of(fit.law);
  found["squared_residuals"] = fit.squared_residuals;
  found["left_out_error"] = left_out_error(kind, points_of(table)).value();
  std::map<std::string, std::vector<double>> without;
  for (Eigen::Index block = 0; block < table.log_ms.cols(); ++block)
    for (const auto& [parameter, value] : parameters_of(fit_law(kind, points_of(table, block))->law))
      without[parameter].push_back(std::log(value));
  for (const auto& [parameter, values] : without) found["error_of_" + parameter] = jackknife_error(values);
  return found;
}

class Reference : public testing::TestWithParam<std::string> {};

TEST_P(Reference, AgreesWithAnIndependentPackage) {
  const auto found = found_by_us(GetParam());
  std::size_t compared = 0;
  for (const auto& row : rows_of("results.csv")) {
    if (row[0] != GetParam()) continue;
    const double expected = std::stod(row[2]);
    ASSERT_TRUE(found.contains(row[1])) << row[1];
    EXPECT_NEAR(found.at(row[1]), expected, 1e-6 * expected) << row[1];
    ++compared;
  }
  EXPECT_EQ(compared, found.size());
}

INSTANTIATE_TEST_SUITE_P(EveryLaw, Reference,
                         testing::Values("linear", "n_log_n", "quadratic", "linear_and_quadratic", "power", "one_knee"),
                         [](const auto& info) { return info.param; });

}  // namespace
}  // namespace mileage
