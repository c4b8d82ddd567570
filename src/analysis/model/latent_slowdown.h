// How slow the machine was during each run: what probes show, shrunk towards what the study shows of such runs.
#pragma once

#include <vector>

#include <Eigen/Core>

#include "analysis/model/rows.h"

namespace mileage {

/// Log slowdown relative to full speed, row by row; all zero where no row has probes.
struct LatentSlowdowns {
  Eigen::VectorXd mean;
  Eigen::VectorXd variance;  ///< Of the true slowdown given the probes.
  Eigen::VectorXi kind;      ///< Of probes.
  double full_speed_sd = 0;  ///< Error of full speed, log scale; 0 without probes.
};

/// A run is a number of independent moments, fast or slow by up to a largest slowdown:
/// the share of slow ones has a beta prior with the study's own mean and spread, and how many moments count as
/// independent follows from how far the halves of probes differ. Needs a row.
LatentSlowdowns latent_slowdowns(const std::vector<ModelRow>& rows);

}  // namespace mileage
