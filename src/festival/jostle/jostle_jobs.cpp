#include <atomic>
#include <vector>

#include <tbb/parallel_for.h>

#include "festival/jobs.h"
#include "festival/jostle/cell_table.h"
#include "festival/jostle/grid.h"
#include "festival/jostle/jostle_variants.h"

namespace mileage::festival::jostle {
namespace {

class FoundByAll {
 public:
  void add(const Found& found) {
    tested_.fetch_add(found.tested, std::memory_order_relaxed);
    contacts_.fetch_add(found.contacts, std::memory_order_relaxed);
    overlap_.fetch_add(found.overlap, std::memory_order_relaxed);
  }
  Found sum() const { return {tested_, contacts_, overlap_}; }

 private:
  std::atomic<std::int64_t> tested_{0}, contacts_{0}, overlap_{0};
};

/// Returns the number of awake lanterns.
template <class Move>
std::int64_t move_in_batches(Frame& frame, Jobs& jobs, std::int64_t count, const Move& move) {
  std::atomic<std::int64_t> awake{0};
  jobs.for_batches(frame, count, [&](std::int64_t from, std::int64_t to) {
    awake.fetch_add(move(from, to), std::memory_order_relaxed);
  });
  return awake;
}

/// Grid in strips of rows, sorted in two steps (by strip in batches, then by cell in each strip), so that no two
/// workers count the same cell.
class StripGrid : public Grid {
 public:
  /// Rows per strip: about one batch of lanterns, at least two.
  StripGrid(const Basin& basin, double edge, double lanterns, double batch) : Grid(basin, edge) {
    const double a_row = std::max(1.0, lanterns / static_cast<double>(cells_.across()));
    rows_ = std::max<std::int64_t>(2, static_cast<std::int64_t>(batch / a_row));
    strips_ = (cells_.across() + rows_ - 1) / rows_;
    for (std::int64_t row = 0; row < cells_.across(); ++row)
      strip_of_row_.push_back(static_cast<std::int32_t>(row / rows_));
  }

  void sort_in_jobs(Frame& frame, Jobs& jobs, Lanterns& lanterns) {
    const auto count = static_cast<std::size_t>(lanterns.size());
    into_.resize(lanterns.size());
    start_.resize(static_cast<std::size_t>(cells_.size()) + 1);
    cell_of_.resize(count);
    by_strip_.resize(count);
    strip_of_.resize(count);
    const std::int64_t batches = (lanterns.size() + jobs.batch() - 1) / jobs.batch();
    in_strip_.assign(static_cast<std::size_t>(batches * strips_), 0);
    jobs.for_batches(frame, lanterns.size(),
                     [&](std::int64_t from, std::int64_t to) { count_strips(jobs, lanterns, from, to); });
    number_places(batches);
    jobs.for_batches(frame, lanterns.size(), [&](std::int64_t from, std::int64_t to) {
      std::int32_t* const next = &in_strip_[static_cast<std::size_t>(from / jobs.batch() * strips_)];
      for (std::int64_t i = from; i < to; ++i)
        by_strip_[static_cast<std::size_t>(next[strip_of_[static_cast<std::size_t>(i)]]++)] =
            static_cast<std::int32_t>(i);
    });
    const auto gathered = [&](std::int64_t strip) {
      return strip_start_[static_cast<std::size_t>(strip) + 1] - strip_start_[static_cast<std::size_t>(strip)];
    };
    each_strip(frame, jobs, 0, 1, gathered, [&](std::int64_t strip) { sort_strip(lanterns, strip); });
    start_.back() = static_cast<std::int32_t>(count);
    std::swap(lanterns, into_);
  }

  /// A strip pushes lanterns of its rows and the next: even strips first, then odd ones.
  Found push_apart_in_jobs(Frame& frame, Jobs& jobs, Lanterns& lanterns) {
    FoundByAll found;
    const auto end_row = [&](std::int64_t strip) { return std::min(cells_.across(), (strip + 1) * rows_); };
    const auto held = [&](std::int64_t strip) {
      return end_of(end_row(strip) - 1, cells_.across()) - begin_of(strip * rows_, 0);
    };
    for (const std::int64_t first : {0, 1})
      each_strip(frame, jobs, first, 2, held,
                 [&](std::int64_t strip) { found.add(push_apart(lanterns, strip * rows_, end_row(strip))); });
    return found.sum();
  }

 private:
  void count_strips(const Jobs& jobs, const Lanterns& lanterns, std::int64_t from, std::int64_t to) {
    std::int32_t* const counts = &in_strip_[static_cast<std::size_t>(from / jobs.batch() * strips_)];
    for (auto i = static_cast<std::size_t>(from); i < static_cast<std::size_t>(to); ++i) {
      const std::int64_t row = cells_.column(lanterns.y[i]);
      cell_of_[i] = static_cast<std::int32_t>(row * cells_.across() + cells_.column(lanterns.x[i]));
      strip_of_[i] = strip_of_row_[static_cast<std::size_t>(row)];
      ++counts[strip_of_[i]];
    }
  }

  /// Prefix sums over strips and batches.
  void number_places(std::int64_t batches) {
    strip_start_.assign(static_cast<std::size_t>(strips_) + 1, 0);
    std::int32_t next = 0;
    for (std::int64_t strip = 0; strip < strips_; ++strip) {
      strip_start_[static_cast<std::size_t>(strip)] = next;
      for (std::int64_t batch = 0; batch < batches; ++batch) {
        std::int32_t& one = in_strip_[static_cast<std::size_t>(batch * strips_ + strip)];
        next += std::exchange(one, next);
      }
    }
    strip_start_.back() = next;
  }

  void sort_strip(const Lanterns& lanterns, std::int64_t strip) {
    const auto begin = static_cast<std::size_t>(strip_start_[static_cast<std::size_t>(strip)]);
    const auto end = static_cast<std::size_t>(strip_start_[static_cast<std::size_t>(strip) + 1]);
    const auto first = static_cast<std::size_t>(strip * rows_ * cells_.across());
    const auto last = static_cast<std::size_t>(std::min(cells_.across(), (strip + 1) * rows_) * cells_.across());
    std::vector<std::int32_t> next(last - first + 1, 0);
    for (std::size_t k = begin; k < end; ++k)
      ++next[static_cast<std::size_t>(cell_of_[static_cast<std::size_t>(by_strip_[k])]) - first + 1];
    next[0] = static_cast<std::int32_t>(begin);
    for (std::size_t cell = first; cell < last; ++cell) {
      start_[cell] = next[cell - first];
      next[cell - first + 1] += next[cell - first];
    }
    for (std::size_t k = begin; k < end; ++k) {
      const auto i = static_cast<std::size_t>(by_strip_[k]);
      into_.take(lanterns, i, static_cast<std::size_t>(next[static_cast<std::size_t>(cell_of_[i]) - first]++));
    }
  }

  /// Every n-th strip; `held`: number of lanterns of a strip.
  template <class Held, class Work>
  void each_strip(Frame& frame, Jobs& jobs, std::int64_t first, std::int64_t step, const Held& held, const Work& work) {
    const auto one = [&](std::int64_t index) {
      const std::int64_t strip = first + index * step;
      const auto noted = frame.work(tbb::this_task_arena::current_thread_index(), static_cast<double>(held(strip)));
      work(strip);
    };
    jobs.arena().execute([&] {
      tbb::parallel_for(std::int64_t{0}, (strips_ - first + step - 1) / step, one, tbb::simple_partitioner{});
    });
  }

  std::int64_t rows_ = 2;
  std::int64_t strips_ = 1;
  std::vector<std::int32_t> strip_of_row_;
  std::vector<std::int32_t> strip_of_;  ///< By lantern.
  std::vector<std::int32_t> by_strip_, in_strip_;
  std::vector<std::int32_t> strip_start_;
};

/// Knob stage: which parts run in jobs.
class JostleGridJobs : public JostleVariant {
 public:
  explicit JostleGridJobs(const SetUp& set_up)
      : JostleVariant(set_up),
        jobs_(set_up.knobs),
        grid_(basin(), set_up.knobs.number("cell"), static_cast<double>(set_up.count + set_up.arrivals),
              set_up.knobs.number("batch")),
        cells_in_jobs_(set_up.knobs.text("stage") != "pairs"),
        pairs_in_jobs_(set_up.knobs.text("stage") != "cells") {}

 private:
  Found push_apart(Frame& frame) override {
    {
      const auto phase = frame.phase("cells");
      if (cells_in_jobs_)
        grid_.sort_in_jobs(frame, jobs_, lanterns());
      else
        grid_.sort(lanterns());
    }
    const auto phase = frame.phase("pairs");
    return pairs_in_jobs_ ? grid_.push_apart_in_jobs(frame, jobs_, lanterns()) : grid_.push_apart(lanterns());
  }

  std::int64_t move_all(Frame& frame) override {
    if (!pairs_in_jobs_) return move(0, alive());
    return move_in_batches(frame, jobs_, alive(), [&](std::int64_t from, std::int64_t to) { return move(from, to); });
  }

  Jobs jobs_;
  StripGrid grid_;
  bool cells_in_jobs_, pairs_in_jobs_;
};

/// Only the searching lantern is pushed, so that no lantern has two writers: every pair is tested twice.
class JostleHashedJobs : public JostleVariant {
 public:
  explicit JostleHashedJobs(const SetUp& set_up)
      : JostleVariant(set_up), table_(basin(), set_up.knobs.number("cell")), jobs_(set_up.knobs) {}

 private:
  Found push_apart(Frame& frame) override {
    {
      const auto phase = frame.phase("cells");
      table_.clear(alive());
      jobs_.for_batches(frame, alive(), [&](std::int64_t from, std::int64_t to) {
        for (std::int64_t i = from; i < to; ++i) table_.put(i, x_of(i), y_of(i));
      });
    }
    const auto phase = frame.phase("pairs");
    FoundByAll all;
    jobs_.for_batches(frame, alive(), [&](std::int64_t from, std::int64_t to) { all.add(pairs_of(from, to)); });
    const Found twice = all.sum();
    return {twice.tested, twice.contacts / 2, twice.overlap / 2};
  }

  Found pairs_of(std::int64_t from, std::int64_t to) {
    Found found;
    for (std::int64_t i = from; i < to; ++i) {
      const std::int64_t row = table_.cells().column(y_of(i));
      const std::int64_t column = table_.cells().column(x_of(i));
      const auto look = [&](std::int64_t other) {
        if (other == i) return;
        ++found.tested;
        meet<Moves::first>(lanterns(), i, other, found);
      };
      for (std::int64_t beside = row - 1; beside <= row + 1; ++beside)
        for (std::int64_t along = column - 1; along <= column + 1; ++along) table_.each_in(beside, along, look);
    }
    return found;
  }

  std::int64_t move_all(Frame& frame) override {
    return move_in_batches(frame, jobs_, alive(), [&](std::int64_t from, std::int64_t to) { return move(from, to); });
  }

  float x_of(std::int64_t i) const { return lanterns().x[static_cast<std::size_t>(i)]; }
  float y_of(std::int64_t i) const { return lanterns().y[static_cast<std::size_t>(i)]; }

  CellTable table_;
  Jobs jobs_;
};

}  // namespace

std::unique_ptr<Variant> make_grid_jobs(const SetUp& set_up) { return std::make_unique<JostleGridJobs>(set_up); }

std::unique_ptr<Variant> make_hashed_jobs(const SetUp& set_up) { return std::make_unique<JostleHashedJobs>(set_up); }

}  // namespace mileage::festival::jostle
