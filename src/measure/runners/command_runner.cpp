#include "measure/runners/command_runner.h"

#include <algorithm>
#include <cmath>
#include <exception>
#include <sstream>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "analysis/evidence/agreement.h"
#include "analysis/evidence/labels.h"
#include "types/order_statistics.h"
#include "measure/runners/picture_check.h"
#include "measure/recordings/recorded_run.h"
#include "measure/in_process/speed_check.h"
#include "study/frame_table.h"
#include "system/files.h"
#include "types/error.h"
#include "types/notation.h"
#include "types/text.h"

namespace mileage {
namespace {

/// Extra frames to settle: this time, at most the number measured.
constexpr double ms_to_settle = 200;
constexpr double min_to_settle = 4;
constexpr double max_to_settle = 20;
/// First run of a cell: this number of frames, or this time by the nearest count.
constexpr double first_frames = 3;
constexpr double ms_of_a_first_run = 150;
constexpr double usual_frames = 40;
constexpr int max_frames = 5000;
/// Fewer are no run.
constexpr std::size_t min_measured = 3;

/// Millions of frames.
constexpr std::uintmax_t max_table_bytes = std::uintmax_t{64} << 20U;
constexpr std::size_t max_last_lines = 3;
/// Pictures agree up to this share of pixels and mean difference: edges depend on rounding.
constexpr double same_pixels = 1e-3;
constexpr double same_mean = 2e-3;
constexpr std::size_t pictures_kept = 16;
constexpr double longest_for_a_picture_s = 60;

bool mentions(const std::vector<std::string>& words, const std::string& placeholder) {
  return std::any_of(words.begin(), words.end(),
                     [&](const std::string& word) { return word.find("{" + placeholder + "}") != std::string::npos; });
}

void replace_all(std::string& text, const std::string& what, const std::string& with) {
  for (auto at = text.find(what); at != std::string::npos; at = text.find(what, at + with.size()))
    text.replace(at, what.size(), with);
}

std::string base_name(const std::string& path) { return std::filesystem::path(path).filename().string(); }

std::string name_of(const Command& command) { return base_name(command.words.front()); }

struct Unfit {
  std::string reason;
};

/// The first line names a column of frame times.
bool begins_like_a_table(const std::string& text) {
  std::istringstream lines(text);
  std::string line;
  while (std::getline(lines, line) && (line.empty() || line.front() == '#' || line == "\r")) {}
  for (const char* column : {"frame_ms", "fps", "low"})
    if (line.find(column) != std::string::npos) return true;
  return false;
}

/// Printed output without {table}.
std::vector<Recording> recordings_printed(const std::string& output, const TableFormat& format) {
  if (!begins_like_a_table(output))
    throw Unfit{std::string(output.empty() ? "printed nothing" : "printed something else than a frame table") +
                ", and its command names no {table}: give it one, or print the table alone"};
  std::istringstream stream(output);
  return read_frame_table(stream, "standard output", format);
}

std::vector<Recording> recordings_left(const std::filesystem::path& table, const TableFormat& format) {
  std::error_code missing;
  if (!std::filesystem::exists(std::filesystem::symlink_status(table, missing))) throw Unfit{"left no frame table"};
  return read_frame_tables({table}, format, max_table_bytes);
}

Recording recording_of(const RunRequest& request, const std::filesystem::path& table, const std::string& output) {
  TableFormat format;
  format.variant = request.series.variant;
  format.count = request.count;
  try {
    std::vector<Recording> recordings =
        table.empty() ? recordings_printed(output, format) : recordings_left(table, format);
    if (recordings.size() > 1) throw Unfit{fmt::format("left a table of {} runs instead of one", recordings.size())};
    return std::move(recordings.front());
  } catch (const Error& error) {
    throw Unfit{std::string("left a table that does not read: ") + error.what()};
  }
}

std::size_t min_frames(const RunRequest& request) {
  return std::max(min_measured, static_cast<std::size_t>(request.min_frames));
}

void check_frames(const Recording& recording, const RunRequest& request, int asked) {
  const std::size_t frames = recording.frame_ns.size();
  if (frames < static_cast<std::size_t>(asked))
    throw Unfit{fmt::format("left {} frames, and {} were asked for", frames, asked)};
  if (request.check_frames == 0 && frames < min_frames(request))
    throw Unfit{fmt::format("left {} frames, fewer than the {} of a run", frames, min_frames(request))};
}

void check_alive(const Run& run, const Recording& recording) {
  const std::int64_t found = recording.count != run.count ? recording.count : run.alive;
  if (found != run.count)
    throw Unfit{fmt::format("was asked for {} entities, and {} are alive at the end", run.count, found)};
}

void check_speed(const Run& run, const Scenario& scenario) {
  const VariantFacts* facts = scenario.find(run.series.variant);
  if (const auto reason = facts != nullptr ? too_fast_to_be_true(run, *facts) : std::nullopt)
    throw Unfit{"left frames that are " + *reason};
}

Outcome stated_outcome(const std::map<std::string, double>& stated, double tolerance) {
  Outcome outcome;
  for (const auto& [name, value] : stated) outcome.state(name, value, tolerance);
  return outcome;
}

double sum_ms(const std::vector<std::int64_t>& frame_ns) {
  double sum = 0;
  for (const std::int64_t ns : frame_ns) sum += static_cast<double>(ns) * 1e-6;
  return sum;
}

/// Cuts a recording to the requested arrival.
std::int64_t let_in(const RunRequest& request, Recording& recording) {
  if (request.arrive == 0) return 0;
  const std::int64_t arrived = cut_to_arrival(recording);
  if (arrived != request.arrive)
    throw Unfit{
        fmt::format("left a table in which {} come at once, and {} were to: its column alive tells when they do",
                    arrived, request.arrive)};
  if (recording.frame_ns.size() < min_frames(request))
    throw Unfit{fmt::format("left {} frames from the arrival on, fewer than the {} of a run", recording.frame_ns.size(),
                            min_frames(request))};
  return arrived;
}

std::string last_words(const ChildReport& report) {
  const std::string words = last_lines(report.errors, max_last_lines);
  const std::string output = words.empty() ? last_lines(report.output, max_last_lines) : words;
  return output.empty() ? "" : "; last output: " + output;
}

std::string name_of(const Series& series) { return label_of(series, {}) + knobs_text(series.knobs); }

double frames_to_settle(double frame_ms, double measured_frames) {
  return std::min(std::clamp(std::ceil(ms_to_settle / frame_ms), min_to_settle, max_to_settle), measured_frames);
}

}  // namespace

int CommandRunner::frames_for(const RunRequest& request) const {
  if (request.check_frames > 0) return request.check_frames;
  if (plan_.frames > 0) return plan_.frames;
  const auto series = frame_ms_.find(name_of(request.series));
  const bool is_range_finding = request.min_ms <= 0;
  if (series == frame_ms_.end())
    return static_cast<int>(is_range_finding ? std::max<double>(first_frames, request.min_frames)
                                             : std::max(usual_frames, request.min_frames + max_to_settle));
  const auto above = series->second.lower_bound(request.count);
  const auto [count, ms] = *(above == series->second.end() ? std::prev(above) : above);
  const double frame_ms = ms * std::max(1.0, static_cast<double>(request.count) / static_cast<double>(count));
  if (is_range_finding) {
    const double affordable = std::clamp(std::ceil(ms_of_a_first_run / frame_ms), first_frames, usual_frames);
    return static_cast<int>(std::max<double>(request.min_frames, affordable));
  }
  const double needed = std::max<double>(request.min_frames, request.min_ms / frame_ms);
  const double settlings = request.arrive > 0 ? 3 : 1;  // Before arrivals, and twice as long after.
  return static_cast<int>(std::min<double>(needed, max_frames) + settlings * frames_to_settle(frame_ms, needed));
}

CommandRunner::Asked CommandRunner::asked(const RunRequest& request, const std::filesystem::path& folder) const {
  Asked asked;
  asked.command.words = plan_.words.at(request.series.variant);
  asked.command.directory = plan_.directory;
  asked.command.environment = plan_.environment;
  asked.command.environment.emplace("MILEAGE_YARDSTICK", "1");
  std::vector<std::string>& words = asked.command.words;
  if (mentions(words, "table")) asked.table = folder / "table.csv";
  if (mentions(words, "picture")) asked.picture = folder / "picture.png";
  if (mentions(words, "frames")) asked.frames = frames_for(request);
  const auto build = plan_.builds.find(request.series.build);
  if (build != plan_.builds.end() && !mentions(words, "program")) words.front() = build->second.string();
  for (std::string& word : words) {
    replace_all(word, "{count}", std::to_string(request.count));
    replace_all(word, "{seed}", std::to_string(request.seed));
    replace_all(word, "{frames}", std::to_string(asked.frames));
    replace_all(word, "{table}", asked.table.string());
    replace_all(word, "{picture}", asked.picture.string());
    replace_all(word, "{arrive}", std::to_string(request.arrive));
    replace_all(word, "{without}", request.series.skipped_phase);
    if (build != plan_.builds.end()) replace_all(word, "{program}", build->second.string());
    for (const auto& [name, value] : request.series.knobs.values()) replace_all(word, "{" + name + "}", text_of(value));
  }
  return asked;
}

Run CommandRunner::run(const RunRequest& request, double limit_s) {
  if (!first_build_) first_build_ = request.series.build;
  const TemporaryFolder folder;
  const Asked asked = this->asked(request, folder.path());
  RunBracket bracket(request, instruments_);
  const std::string program = name_of(asked.command) + (request.series.build.empty() ? "" : " " + request.series.build);
  const bool probes_itself = that_probe_.count(program) > 0;
  if (!probes_itself) bracket.before_frames();

  const std::int64_t start = instruments_.clock->now_ns();
  const Limits limits{plan_.time_limit_s > 0 ? plan_.time_limit_s : limit_s, memory_limit_bytes_, true};
  const ChildReport report = run_child(asked.command, limits, {});
  if (report.ending == ChildEnding::stopped) throw Stopped{};
  const double took_ms = static_cast<double>(instruments_.clock->now_ns() - start) * 1e-6;

  Run run = report.is_well()
                ? run_from(request, asked, report, took_ms)
                : failed_run(request, name_of(asked.command) + " " + worded(report, limits) + last_words(report));
  run.left_behind = report.left_behind;
  if (run.yardstick) run.yardstick->program = program;
  learn(run);
  if (run.status != RunStatus::failed && !run.yardstick && !probes_itself) bracket.after_frames();
  bracket.tell(run);
  return run;
}

void CommandRunner::learn(const Run& run) {
  if (!first_build_) first_build_ = run.series.build;
  if (run.yardstick && !run.yardstick->program.empty()) that_probe_.insert(run.yardstick->program);
  if (!run.samples_ns.empty())
    frame_ms_[name_of(run.series)][run.count] = median({run.samples_ns.begin(), run.samples_ns.end()}) * 1e-6;
}

const Picture& CommandRunner::picture_of(const RunRequest& reference) {
  const std::string key = fmt::format("{}\n{}\n{}\n{}", reference.count, reference.seed, reference.check_frames,
                                      knobs_text(reference.series.knobs));
  if (const auto known = pictures_.find(key); known != pictures_.end()) return known->second;
  const TemporaryFolder folder;
  const Asked asked = this->asked(reference, folder.path());
  const double limit_s = plan_.time_limit_s > 0 ? plan_.time_limit_s : longest_for_a_picture_s;
  const ChildReport report = run_child(asked.command, {limit_s, memory_limit_bytes_, true}, {});
  if (report.ending == ChildEnding::stopped) throw Stopped{};
  if (!report.is_well()) throw Unfit{"left a picture, and the reference none to hold it against"};
  if (pictures_.size() >= pictures_kept) pictures_.clear();
  return pictures_[key] = read_png(asked.picture);
}

void CommandRunner::state_picture(const RunRequest& request, const Asked& asked, Outcome& outcome) {
  const Picture own = read_png(asked.picture);
  RunRequest reference = request;
  reference.series = reference_series(request.series, scenario_, first_build_.value_or(""));
  const Picture& correct = picture_of(reference);
  if (own.width != correct.width || own.height != correct.height)
    throw Unfit{fmt::format("left a picture of {} x {}, and that of the reference has {} x {}", own.width, own.height,
                            correct.width, correct.height)};
  const PictureDifference difference = difference_of(own, correct);
  outcome.state(picture_pixels, difference.pixels, same_pixels, 1);
  outcome.state(picture_mean, difference.mean, same_mean, 1);
}

Run CommandRunner::run_from(const RunRequest& request, const Asked& asked, const ChildReport& report, double took_ms) {
  try {
    Recording recording = recording_of(request, asked.table, report.output);
    check_frames(recording, request, asked.frames);
    const double recorded_ms = sum_ms(recording.frame_ns);
    const std::int64_t arrived = let_in(request, recording);
    const std::size_t warmup = request.check_frames > 0 ? 0 : warmup_of(recording.frame_ns, min_frames(request));
    Run run = run_of(recording, warmup);
    if (request.traced) run.trace = trace_of(recording, warmup);
    run.series = request.series;
    run.count = request.count;
    run.seed = request.seed;
    run.arrived = arrived;
    if (report.used) run.memory.peak_bytes = report.used->peak_bytes;
    if (report.used) run.whole_processor_ms = report.used->processor_s * 1000;
    check_alive(run, recording);
    check_speed(run, scenario_);
    run.outcome = asked.frames > 0 ? stated_outcome(recording.outcome, plan_.tolerance) : Outcome{};
    if (request.check_frames > 0 && asked.frames > 0 && !asked.picture.empty())
      state_picture(request, asked, run.outcome);
    if (run.setup_ms.value_or(0) <= 0) run.setup_ms = std::max(0.0, took_ms - recorded_ms);
    if (request.check_frames > 0) run.samples_ns.clear();
    return run;
  } catch (const Unfit& unfit) {
    return failed_run(request, name_of(asked.command) + " " + unfit.reason);
  } catch (const std::exception& error) {
    return failed_run(request, name_of(asked.command) + " left what could not be read: " + error.what());
  }
}

std::vector<std::string> command_lines(const CommandPlan& plan) {
  std::vector<std::string> lines;
  for (const auto& [variant, words] : plan.words) {
    std::string line = variant + ":";
    for (const std::string& word : words) line += " " + without_paths(word);
    lines.push_back(line);
  }
  for (const auto& [name, program] : plan.builds)
    lines.push_back(fmt::format("build {}: {}", name, base_name(program.string())));
  if (!plan.environment.empty()) {
    std::string names = "environment:";
    for (const auto& [name, value] : plan.environment) names += " " + name;
    lines.push_back(names);
  }
  return lines;
}

}  // namespace mileage
