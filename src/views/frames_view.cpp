#include "views/views.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "views/words.h"

namespace mileage {
namespace {

/// For parts of spikes that are named.
constexpr double min_named_share = 0.1;
constexpr std::size_t max_listed_workers = 6;
/// Recorded and corrected times that differ by 10 % need an explanation.
const double min_named_correction = std::log(1.1);

bool has_frames(const CellFrames& cell) { return cell.frames > 0; }

std::string part_words(const Spikes& spikes) {
  std::vector<std::string> words;
  for (const SpikePart& part : spikes.parts)
    if (part.share >= min_named_share)
      words.push_back(
          fmt::format("{} {}", part.phase.empty() ? "outside phases" : part.phase, percent_text(part.share)));
  return fmt::format("{}", fmt::join(words, ", "));
}

std::string period_words(const Spikes& spikes) {
  if (!spikes.period) return "";
  return fmt::format("every {} frames ({} of {})", three_digits(spikes.period->every), spikes.period->hits,
                     spikes.period->due);
}

/// "objects spikes in 1 of 350 frames (1.60x, every 90 frames, in gather 92 %)".
std::string spike_words(const std::string& label, const CellFrames& cell) {
  const double rate = static_cast<double>(cell.frames) / static_cast<double>(cell.spikes.seen);
  const std::string period = period_words(cell.spikes), parts = part_words(cell.spikes);
  return fmt::format("{} spikes in 1 of {:.0f} frames ({}{}{})", label, rate, ratio_text(cell.spikes.times_around),
                     period.empty() ? "" : ", " + period, parts.empty() ? "" : ", in " + parts);
}

/// Of cells without a spike.
std::size_t min_frames(const std::vector<const CellFrames*>& cells) {
  std::size_t fewest = std::numeric_limits<std::size_t>::max();
  for (const CellFrames* cell : cells)
    if (has_frames(*cell) && cell->spikes.seen == 0) fewest = std::min(fewest, cell->frames);
  return fewest;
}

std::string frames_sentence(const About& about, const std::vector<const CellFrames*>& cells) {
  std::vector<std::string> words, steady, unknown;
  for (const CellFrames* cell : cells) {
    const std::string& label = about.label(cell->series);
    if (!has_frames(*cell))
      unknown.push_back(label);
    else if (cell->spikes.seen > 0)
      words.push_back(spike_words(label, *cell));
    else
      steady.push_back(label);
  }
  if (!steady.empty())
    words.push_back(fmt::format("{} {} no spike in {} frames", and_list(steady), steady.size() == 1 ? "has" : "have",
                                min_frames(cells)));
  if (!unknown.empty())
    words.push_back(
        fmt::format("frames of {} were timed several at a time, so single ones are unknown", and_list(unknown)));
  const CellFrames& first = *cells.front();
  const bool is_elsewhere = first.asked_at && *first.asked_at != first.x;
  return fmt::format("At {}{}: {}.", named_place(first.x, about.axis),
                     is_elsewhere ? fmt::format(" (nearest to {})", place_text(*first.asked_at, about.axis)) : "",
                     fmt::join(words, "; "));
}

std::vector<std::string> frames_sentences(const About& about, const FramesAnswer& answer) {
  std::map<double, std::vector<const CellFrames*>> by_place;
  for (const CellFrames& cell : answer.cells) by_place[cell.x].push_back(&cell);
  std::vector<std::string> sentences;
  for (const auto& [x, cells] : by_place) sentences.push_back(frames_sentence(about, cells));
  return sentences;
}

Table frames_table(const About& about, const FramesAnswer& answer) {
  const std::string budget = ms_text(answer.budget_ms);
  Table table(about, "frames", "",
              {series_column(),
               place_column(about),
               {"frames", "frames", Format::whole, "frames recorded one by one"},
               {"typical_ms", "typical ms", Format::number, "median frame as recorded, ms"},
               {"spikes", "spikes", Format::whole, "frames that take half more than those around them"},
               {"spike_ratio", "spike", Format::ratio, "spike relative to the frames around it, median"},
               {"worst_ms", "worst ms", Format::number, "longest frame, ms"},
               {"share_over", "over " + budget, Format::percent, "share of frames over the budget, by wall time",
                Spread::inside},
               {"longest_run_over", "in a row", Format::whole, "longest run of frames over the budget"},
               {"period", "spikes come", Format::text, "period of the spikes"},
               {"spikes_per_frame", "", Format::number, "spikes per frame", Spread::inside},
               {"spike_worst_ms", "", Format::number, "longest spike, ms"},
               {"period_frames", "", Format::number, "frames from spike to spike, where they are regular"},
               {"budget_ms", "", Format::number, "frame budget, ms"},
               {"runs", "", Format::whole, "runs"},
               {"traced_runs", "", Format::whole, "runs with phases of every frame"},
               {"frames_per_sample", "", Format::whole, "frames timed at a time"}});
  for (const CellFrames& cell : answer.cells) {
    const Spikes& spikes = cell.spikes;
    const auto of_spikes = [&](double value) { return spikes.seen > 0 ? Entry(value) : absent(); };
    Interval rate;
    if (spikes.rate_interval.low) rate.low = *spikes.rate_interval.low / 1000;
    if (spikes.rate_interval.high) rate.high = *spikes.rate_interval.high / 1000;
    if (!has_frames(cell)) continue;
    table.row({series_entry(about, cell.series),
               cell.x,
               cell.frames,
               cell.typical_ms,
               spikes.seen,
               of_spikes(spikes.times_around),
               cell.worst_ms,
               {cell.share_over, cell.share_over_interval},
               cell.longest_run_over,
               period_words(spikes),
               {spikes.a_thousand_frames / 1000, rate},
               of_spikes(spikes.worst_ms),
               spikes.period ? Entry(spikes.period->every) : absent(),
               answer.budget_ms,
               cell.runs,
               cell.traced,
               cell.frames_per_sample});
  }
  return table;
}

Table spike_parts_table(const About& about, const FramesAnswer& answer) {
  Table table(about, "spike_parts", "",
              {hidden_series_column(),
               {"phase", "", Format::text, "phase; empty for the time outside phases"},
               {"share", "", Format::percent, "its share of the time by which spikes exceed the frames around them"}});
  for (const CellFrames& cell : answer.cells)
    for (const SpikePart& part : cell.spikes.parts)
      table.row({series_entry(about, cell.series), part.phase, part.share});
  return table;
}

Table warm_up_table(const About& about, const FramesAnswer& answer) {
  Table table(
      about, "warm_up", "Warm-up",
      {series_column(),
       {"after", "after", Format::text, "an arrival or the set-up"},
       {"seen", "times seen", Format::whole, "runs"},
       {"first_ms", "first frames, ms", Format::number, "highest of the first frames, median, ms"},
       {"frames", "frames", Format::number, "frames until within 10 % of the warmed-up frame, median"},
       {"takes_ms", "ms", Format::number, "time these take, ms"},
       {"never", "", Format::whole, "runs that did not warm up"},
       {"exponent", "grows as arriving^", Format::number, "of the frames over how many arrive", Spread::inside}});
  for (const CellFrames& cell : answer.cells)
    if (const auto& one = cell.settling)
      table.row({series_entry(about, cell.series), one->after_arrival ? "arrival" : "set-up", one->seen, one->from_ms,
                 Entry(one->frames).reads(one->frames < 1 ? "none" : three_digits(one->frames)),
                 one->frames < 1 ? absent() : Entry(one->takes_ms), one->never,
                 cell.settling_law ? Entry(cell.settling_law->exponent, cell.settling_law->interval) : absent()});
  return table;
}

std::string busy_text(const std::vector<double>& busy_ms) {
  std::vector<std::string> words;
  for (std::size_t i = 0; i < std::min(busy_ms.size(), max_listed_workers); ++i)
    words.push_back(three_digits(busy_ms[i]));
  const std::string rest = busy_ms.size() > max_listed_workers
                               ? fmt::format(" … {} ({} workers)", three_digits(busy_ms.back()), busy_ms.size())
                               : "";
  return fmt::format("{}{}", fmt::join(words, ", "), rest);
}

Table work_table(const About& about, const FramesAnswer& answer) {
  Table table(about, "work", "Work by worker, per frame",
              {series_column(),
               {"busy_ms", "busy ms, each worker", Format::number, "sum over workers, ms"},
               {"batches", "batches", Format::number, "batches"},
               {"largest_ms", "longest batch, ms", Format::number, "longest batch, ms"},
               {"before_ms", "before the first, ms", Format::number, "until the first batch, ms"},
               {"after_ms", "after the last, ms", Format::number, "from the last batch on, ms"},
               {"idle_share", "idle between", Format::percent, "share of the workers' time between these"},
               {"balance_saves_ms", "perfect balance saves, ms", Format::number,
                "time per frame that equal shares would save, ms", Spread::inside},
               {"entities", "", Format::number, "entities worked on"}});
  for (const CellFrames& cell : answer.cells)
    if (const auto& work = cell.work) {
      double busy = 0;
      for (const double ms : work->busy_ms) busy += ms;
      table.row({series_entry(about, cell.series),
                 Entry(busy).reads(busy_text(work->busy_ms)),
                 work->batches,
                 work->largest_ms,
                 work->before_ms,
                 work->after_ms,
                 work->idle_share,
                 {work->balance_saves_ms, work->balance_interval},
                 work->entities});
    }
  return table;
}

Table busy_table(const About& about, const FramesAnswer& answer) {
  Table table(about, "busy_workers", "",
              {hidden_series_column(),
               {"rank", "", Format::whole, "from the busiest worker on"},
               {"busy_ms", "", Format::number, "its busy time per frame, ms"}});
  for (const CellFrames& cell : answer.cells)
    if (cell.work)
      for (std::size_t i = 0; i < cell.work->busy_ms.size(); ++i)
        table.row({series_entry(about, cell.series), i + 1, cell.work->busy_ms[i]});
  return table;
}

Table beginning_table(const About& about, const FramesAnswer& answer) {
  Table table(about, "beginning", "",
              {hidden_series_column(),
               {"frame", "", Format::whole, "frame after the arrival or the set-up, from 0"},
               {"typical_ms", "", Format::number, "median over runs, ms"},
               {"worst_ms", "", Format::number, "longest of all runs, ms"}});
  for (const CellFrames& cell : answer.cells)
    for (const FrameAfter& one : cell.beginning)
      table.row({series_entry(about, cell.series), one.number, one.typical_ms, one.worst_ms});
  return table;
}

Table sorted_table(const About& about, const FramesAnswer& answer) {
  Table table(about, "sorted_frames", "",
              {hidden_series_column(), {"ms", "", Format::number, "frame times, ascending, at most 400, ms"}});
  for (const CellFrames& cell : answer.cells)
    for (const double ms : cell.sorted_ms) table.row({series_entry(about, cell.series), ms});
  return table;
}

}  // namespace

Answer frames_view(const About& about, const FramesAnswer& answer) {
  Answer view;
  view.verdict = frames_sentences(about, answer);
  view.tables = {frames_table(about, answer),      warm_up_table(about, answer), work_table(about, answer),
                 spike_parts_table(about, answer), busy_table(about, answer),    beginning_table(about, answer),
                 sorted_table(about, answer)};
  for (const CellFrames& cell : answer.cells)
    if (has_frames(cell) && cell.cost_ms && std::fabs(std::log(cell.typical_ms / *cell.cost_ms)) > min_named_correction)
      view.note(fmt::format("{}: frames are shown as recorded ({}); corrected for machine slowdown a frame costs {}.",
                            about.label(cell.series), ms_text(cell.typical_ms), ms_text(*cell.cost_ms)));
  const bool is_any_traced =
      std::any_of(answer.cells.begin(), answer.cells.end(), [](const CellFrames& cell) { return cell.traced > 0; });
  if (!is_any_traced)
    view.note("--trace 3 while measuring, or a table with phases, shows which phase spikes are in.", true);
  return view;
}

}  // namespace mileage
