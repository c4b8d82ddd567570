#include "measure/runners/hand_runner.h"

#include <algorithm>
#include <optional>

#include <fmt/format.h>

#include "analysis/evidence/labels.h"
#include "measure/recordings/caps.h"
#include "measure/recordings/recorded_run.h"
#include "study/frame_table.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

constexpr std::int64_t between_looks_ns = 200'000'000;
/// Polls without change after which a file is complete.
constexpr int looks_to_believe = 3;
constexpr std::size_t min_by_hand = 10;
constexpr const char* asked_length = "about 20 s";

/// State of a file.
struct Stamp {
  std::uintmax_t size = 0;
  std::filesystem::file_time_type written;
  bool operator==(const Stamp&) const = default;
};

std::optional<Stamp> stamp_of(const std::filesystem::path& file) {
  std::error_code missing;
  const auto size = std::filesystem::file_size(file, missing);
  if (missing || size == 0) return std::nullopt;
  const auto written = std::filesystem::last_write_time(file, missing);
  return missing ? std::nullopt : std::optional(Stamp{size, written});
}

[[noreturn]] void refuse(const std::string& problem) { throw Error({.problem = problem}); }

std::string key_of(const Run& run) { return label_of(run.series, {}) + knobs_text(run.series.knobs); }

}  // namespace

std::string HandRunner::file_name(const RunRequest& request) {
  std::string name = fmt::format("{}{}-{}-{:04x}.csv", request.series.variant, knobs_text(request.series.knobs),
                                 request.count, request.seed & 0xffffU);
  std::replace(name.begin(), name.end(), ' ', '-');
  return name;
}

Run HandRunner::run(const RunRequest& request, double) {
  const std::filesystem::path file = folder_ / file_name(request);
  talk_.say(fmt::format("{} {}, {}{}, same viewpoint: record {}, save as {}", request.count, scenario_.entities,
                        request.series.variant, knobs_text(request.series.knobs), asked_length,
                        file.filename().string()));
  std::optional<Stamp> refused;
  while (true) {
    while (!stamp_of(file) || stamp_of(file) == refused) {
      if (talk_.stop()) throw Stopped{};
      clock_.pause_ns(between_looks_ns);
    }
    wait_for(file);
    try {
      const Run run = taken(request, file);
      refuse_capped(run);
      talk_.say(fmt::format("  taken: {} frames, {} of them warm-up", run.samples_ns.size() + run.warmup_ns.size(),
                            run.warmup_ns.size()));
      return run;
    } catch (const Error& error) {
      refused = stamp_of(file);
      talk_.say(fmt::format("  not taken: {}; record it again under the same name", error.what()));
    }
  }
}

/// Caps show together with earlier recordings.
void HandRunner::refuse_capped(const Run& run) {
  std::vector<const Run*> all;
  for (const Run& earlier : taken_[key_of(run)]) all.push_back(&earlier);
  all.push_back(&run);
  const CapVerdict verdict = cap_verdicts(all).back();
  if (!verdict.bound.empty()) refuse(verdict.bound);
  if (!verdict.warning.empty()) talk_.say("  " + verdict.warning);
  learn(run);
}

void HandRunner::learn(const Run& run) { taken_[key_of(run)].push_back(run); }

void HandRunner::wait_for(const std::filesystem::path& file) const {
  std::optional<Stamp> last;
  for (int same = 0; same < looks_to_believe;) {
    if (talk_.stop()) throw Stopped{};
    const auto now = stamp_of(file);
    same = now == last ? same + 1 : 0;
    last = now;
    clock_.pause_ns(between_looks_ns);
  }
}

Run HandRunner::taken(const RunRequest& request, const std::filesystem::path& file) const {
  TableFormat format;
  format.variant = request.series.variant;
  format.count = request.count;
  const std::vector<Recording> recordings = read_frame_tables({file}, format);
  if (recordings.size() != 1) refuse(fmt::format("it holds {} runs instead of one", recordings.size()));
  const Recording& recording = recordings.front();
  if (recording.frame_ns.size() < min_by_hand)
    refuse(fmt::format("{} frames are too few, {} at least are needed", recording.frame_ns.size(), min_by_hand));
  const std::size_t warmup = warmup_of(recording.frame_ns, min_by_hand);
  Run run = run_of(recording, warmup);
  run.trace = trace_of(recording, warmup);
  if (recording.count != request.count || run.alive != request.count)
    refuse(fmt::format("{} were asked for, and it holds {}", request.count,
                       recording.count != request.count ? recording.count : run.alive));
  run.series = request.series;
  run.count = request.count;
  run.seed = request.seed;
  run.outcome = Outcome{};  // After an unknown number of frames.
  return run;
}

}  // namespace mileage
