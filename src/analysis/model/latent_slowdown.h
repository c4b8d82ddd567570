// Slowdown of each run: probe readings, shrunk towards the study's distribution.
#pragma once

#include <vector>

#include <Eigen/Core>

#include "analysis/evidence/model_rows.h"

namespace mileage {

/// Log slowdown by row; zero if no row has probes.
struct LatentSlowdowns {
  Eigen::VectorXd mean;
  Eigen::VectorXd variance;  ///< Of the true slowdown given the probes.
  Eigen::VectorXi kind;      ///< Of probes.
  double full_speed_sd = 0;  ///< Error of full speed, log scale; 0 without probes.
};

/// A run is a number of independent moments, fast or slow by up to a largest slowdown. The share of slow ones has a
/// beta prior estimated from the study; how far probe halves differ gives the number of independent moments. Needs a
/// row.
LatentSlowdowns latent_slowdowns(const std::vector<ModelRow>& rows);

}  // namespace mileage
