#include "measure/measure_study.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <random>
#include <vector>

#include "analysis/evidence.h"

namespace mileage {
namespace {

/// A series is not placed beyond a count whose placing visit is so far over the budget; the first such count stays in,
/// since a placing visit is short and easily too slow.
constexpr double far_over_budget = 2.0;
constexpr double surely_over_budget = 1.3;
/// Placing visits of a count that looks over the budget; the fastest decides.
constexpr int looks_at_an_end = 2;
constexpr int placing_frames = 2;
constexpr double least_limit_s = 10;
constexpr double limit_over_predicted = 20;
/// What a visit costs besides its frames, until it is known: starting a process.
constexpr double start_of_visit_s = 0.02;

/// A cell that takes part in the blocks.
struct Cell {
  std::size_t series = 0;
  std::int64_t count = 0;
  double predicted_s = 0;  ///< Of a visit in a block, from the placing visit.
};

/// splitmix64 (Steele, Lea and Flood 2014): seeds of worlds that are unlike for neighbouring numbers.
std::uint64_t mixed(std::uint64_t value) {
  value += 0x9e3779b97f4a7c15U;
  value = (value ^ (value >> 30)) * 0xbf58476d1ce4e5b9U;
  value = (value ^ (value >> 27)) * 0x94d049bb133111ebU;
  return value ^ (value >> 31);
}

/// Below 2^53, so that no reader of the file rounds it.
std::uint64_t world_seed(std::uint64_t plan_seed, int block, std::int64_t count) {
  return mixed(mixed(plan_seed ^ static_cast<std::uint64_t>(block + 1)) ^ static_cast<std::uint64_t>(count)) >> 11;
}

/// All cells of one block in the order of their visits.
std::vector<Cell> shuffled(std::vector<Cell> cells, std::uint64_t plan_seed, int block) {
  std::mt19937_64 random(mixed(plan_seed + 1000003U * static_cast<std::uint64_t>(block + 1)));
  std::shuffle(cells.begin(), cells.end(), random);
  std::vector<std::int64_t> counts;
  for (const Cell& cell : cells)
    if (std::find(counts.begin(), counts.end(), cell.count) == counts.end()) counts.push_back(cell.count);
  const auto turn = [&](const Cell& cell) { return std::find(counts.begin(), counts.end(), cell.count); };
  std::stable_sort(cells.begin(), cells.end(), [&](const Cell& a, const Cell& b) { return turn(a) < turn(b); });
  return cells;
}

class StudyLoop {
 public:
  StudyLoop(const Scenario& scenario, const Plan& plan, Runner& runner, Clock& clock, const Watch& watch)
      : scenario_(scenario), plan_(plan), runner_(runner), clock_(clock), watch_(watch), start_ns_(clock.now_ns()) {}

  Summary run() {
    place();
    if (cells_.empty()) return finished();
    for (int block = 0; !summary_.stopped && another_block_fits(block); ++block) run_block(block);
    return finished();
  }

 private:
  double elapsed_s() const { return static_cast<double>(clock_.now_ns() - start_ns_) * 1e-9; }

  Summary finished() {
    summary_.elapsed_s = elapsed_s();
    return summary_;
  }

  bool stop_asked() {
    if (watch_.stop && watch_.stop()) summary_.stopped = true;
    return summary_.stopped;
  }

  /// Brackets the budget for each series with short visits that take part in no answer.
  void place() {
    Progress progress;
    progress.placing = true;
    std::vector<bool> far_over(plan_.series.size(), false);
    std::vector<bool> surely_over(plan_.series.size(), false);
    for (const std::int64_t count : plan_.counts)
      for (std::size_t series = 0; series < plan_.series.size(); ++series) {
        if (far_over[series] || stop_asked()) continue;
        const auto placed = look_at(series, count, progress);
        if (!placed) continue;
        far_over[series] = placed->frame_ms > far_over_budget * plan_.budget_ms;
        if (!far_over[series] || !surely_over[series]) cells_.push_back(placed->cell);
        surely_over[series] = surely_over[series] || placed->frame_ms > surely_over_budget * plan_.budget_ms;
      }
  }

  struct Placed {
    Cell cell;
    double frame_ms;
  };

  /// A placing visit, and another one where it looks over the budget; nothing when the first one fails.
  std::optional<Placed> look_at(std::size_t series, std::int64_t count, Progress& progress) {
    Cell cell{series, count, least_limit_s / limit_over_predicted};
    const double before_s = elapsed_s();
    const Visit visit = make_visit(cell, -1, placing_frames, 0, progress);
    if (visit.status == VisitStatus::failed) return std::nullopt;
    const double whole_s = elapsed_s() - before_s;
    double frame_ms = typical_frame_ms(visit);
    for (int look = 1; look < looks_at_an_end && frame_ms > surely_over_budget * plan_.budget_ms; ++look) {
      const Visit again = make_visit(cell, -1, placing_frames, 0, progress);
      if (again.status != VisitStatus::failed) frame_ms = std::min(frame_ms, typical_frame_ms(again));
    }
    cell.predicted_s = predicted_s(visit, whole_s);
    return Placed{cell, frame_ms};
  }

  /// Time of a visit in a block: everything of the placing visit but its frames, and the frames of a whole visit.
  double predicted_s(const Visit& placing, double whole_s) const {
    const double frame_s = typical_frame_ms(placing) * 1e-3;
    const auto placing_total = static_cast<double>(placing.warmup_ns.size()) + static_cast<double>(placing.measured_frames());
    const double beside_s = std::max(start_of_visit_s / 4, whole_s - placing_total * frame_s);
    const double measured_s = std::max(plan_.least_frames * frame_s, plan_.least_ms * 1e-3);
    return beside_s + static_cast<double>(placing.warmup_ns.size()) * frame_s + measured_s;
  }

  double block_s() const {
    if (summary_.blocks > 0) return (elapsed_s() - blocks_since_s_) / summary_.blocks;
    double sum = 0;
    for (const Cell& cell : cells_) sum += cell.predicted_s;
    return sum;
  }

  /// Blocks foreseen in all.
  int blocks_foreseen() const {
    if (plan_.time_s <= 0) return plan_.blocks;
    const double left_s = plan_.time_s - blocks_since_s_;
    const int in_time = std::max(1, static_cast<int>(std::floor(left_s / block_s() + 0.05)));
    return plan_.blocks > 0 ? std::min(plan_.blocks, in_time) : in_time;
  }

  bool another_block_fits(int block) {
    if (block == 0) blocks_since_s_ = elapsed_s();
    return block < blocks_foreseen();
  }

  void run_block(int block) {
    Progress progress;
    progress.block = block;
    progress.blocks = blocks_foreseen();
    progress.cells = cells_.size();
    for (const Cell& cell : shuffled(cells_, plan_.seed, block)) {
      if (stop_asked()) return;
      progress.left_s = std::max(0.0, blocks_since_s_ + progress.blocks * block_s() - elapsed_s());
      make_visit(cell, block, plan_.least_frames, plan_.least_ms, progress);
    }
    ++summary_.blocks;
  }

  Visit make_visit(const Cell& cell, int block, int frames, double least_ms, Progress& progress) {
    progress.elapsed_s = elapsed_s();
    progress.series = &plan_.series[cell.series];
    progress.count = cell.count;
    if (watch_.progress) watch_.progress(progress);

    VisitRequest request{scenario_.name, plan_.series[cell.series], cell.count,
                         world_seed(plan_.seed, block, cell.count), frames, least_ms};
    Visit visit = runner_.run(request, std::max(least_limit_s, limit_over_predicted * cell.predicted_s));
    visit.block = block;
    visit.order = order_;
    visit.process = order_++;
    ++progress.done;
    if (visit.status != VisitStatus::failed && block < 0) visit.status = VisitStatus::placing;
    summary_.kept += visit.status == VisitStatus::kept;
    summary_.failed += visit.status == VisitStatus::failed;
    if (watch_.keep) watch_.keep(visit);
    return visit;
  }

  const Scenario& scenario_;
  const Plan& plan_;
  Runner& runner_;
  Clock& clock_;
  const Watch& watch_;
  std::int64_t start_ns_;
  double blocks_since_s_ = 0;
  int order_ = 0;
  std::vector<Cell> cells_;
  Summary summary_;
};

}  // namespace

Summary measure_study(const Scenario& scenario, const Plan& plan, Runner& runner, Clock& clock, const Watch& watch) {
  return StudyLoop(scenario, plan, runner, clock, watch).run();
}

}  // namespace mileage
