#pragma once

#include <cmath>
#include <functional>
#include <random>
#include <vector>

#include "analysis/evidence/model_rows.h"

namespace mileage::made {

struct RowSetting {
  std::vector<std::function<double(double)>> ms;  ///< By series.
  std::vector<double> counts;
  int blocks = 6;
  double noise = 0.02;
  std::function<double(int)> slowdown = {};  ///< Log slowdown by run number; without it no probes.
  double response = 0.8;
};

inline std::vector<ModelRow> rows_of(const RowSetting& setting, std::uint64_t seed = 1) {
  std::mt19937_64 random(seed);
  std::normal_distribution<double> normal;
  std::vector<ModelRow> rows;
  for (int block = 0; block < setting.blocks; ++block)
    for (const double count : setting.counts)
      for (std::size_t series = 0; series < setting.ms.size(); ++series) {
        const auto number = static_cast<int>(rows.size());
        ModelRow row;
        row.series = static_cast<int>(series);
        row.log_x = std::log(count);
        row.block = block;
        row.order = number;
        row.log_ms = std::log(setting.ms[series](count)) + setting.noise * normal(random);
        if (setting.slowdown) {
          const double slow = setting.slowdown(number), ns = 15'000 * std::exp(slow);
          row.log_ms += setting.response * slow;
          row.probes = ProbeRow{0,
                                ns * std::exp(0.01 * normal(random)),
                                ns * std::exp(0.01 * normal(random)),
                                15'000 * std::exp(slow / 2),
                                40,
                                15'000};
        }
        rows.push_back(row);
      }
  return rows;
}

/// "objects", and something faster from 2,000.
inline RowSetting two_lines() {
  return {{[](double n) { return 1e-4 * n; }, [](double n) { return 0.1 + 5e-5 * n; }},
          {100, 300, 1000, 3000, 10'000, 30'000, 100'000}};
}

}  // namespace mileage::made
