// What the joint model uses: one row per run.
#pragma once

#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "analysis/evidence/evidence_set.h"

namespace mileage {

/// Nanoseconds.
struct ProbeRow {
  int kind = 0;  ///< Comparable within a kind: same program and cores.
  double one_half_ns = 0, other_half_ns = 0;
  double fast_ns = 0;  ///< 10th percentile.
  double moments = 1;
  std::optional<double> remembered_ns;
};

struct ModelRow {
  int series = 0;  ///< Index in the evidence.
  double log_x = 0;
  double log_ms = 0;
  int block = 0;
  double order = 0;           ///< Number among the study's runs.
  std::int64_t process = -1;  ///< With several rows; -1 otherwise.
  double waiting = 0;         ///< For a core, relative to own frame time.
  double running = 1;         ///< Share of frame time stretched by slowdown: any thread running.
  double shared_sd = 0;       ///< Common to its series, log scale.
  std::optional<ProbeRow> probes;
};

/// Of a run by itself, at its count. `kinds`: numbers of the kinds of probes so far. Needs samples.
ModelRow row_of(const Run& run, int series, const Head& head, std::map<DisturbanceFilter::Kind, int>& kinds);

/// Runs of blocks in study order, disturbed ones included. `within_processes`: as if every run had its own process.
std::vector<ModelRow> model_rows(const EvidenceSet& evidence, bool within_processes = false);

}  // namespace mileage
