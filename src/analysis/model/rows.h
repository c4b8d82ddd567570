// What the joint model sees of a study: one row for each run.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "analysis/evidence/evidence_set.h"

namespace mileage {

/// What the probes of a run show, in nanoseconds.
struct ProbeRow {
  int kind = 0;  ///< Probes are compared within a kind: same program, same number of cores.
  double one_half_ns = 0, other_half_ns = 0;
  double fast_ns = 0;  ///< A tenth of them took at most this.
  double moments = 1;
  std::optional<double> remembered_ns;  ///< Full speed from earlier studies.
};

struct ModelRow {
  int series = 0;     ///< Its place in the evidence.
  double log_x = 0;   ///< Log of the place on the axis.
  double log_ms = 0;  ///< Log cost of a frame.
  int block = 0;
  double order = 0;           ///< Place among the runs of the study.
  std::int64_t process = -1;  ///< Of a process that made several rows; -1 for one of its own.
  double waiting = 0;         ///< Time that its threads waited for a core, relative to the frames' own time.
  double running = 1;         ///< Share of the frames' time that a slow machine stretches: in which any thread ran.
  double shared_sd = 0;       ///< Error that rows of its series share, log scale.
  std::optional<ProbeRow> probes;
};

/// Runs of the blocks, disturbed ones included: the model knows how much each tells. In the order of the study.
/// `within_processes`: as if every run had a process of its own.
std::vector<ModelRow> model_rows(const EvidenceSet& evidence, bool within_processes = false);

}  // namespace mileage
