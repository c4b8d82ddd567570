#include "study/frame_table.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <fstream>
#include <tuple>

#include <fmt/format.h>
#include <re2/re2.h>

#include "study/csv_reader.h"
#include "study/knobs_cell.h"
#include "study/table_row.h"
#include "system/files.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

/// Ten days per frame: another kind of column.
constexpr double max_frame_ms = 1e9;
/// After this number of rows a recurring count is a new recording.
constexpr std::size_t rows_of_a_stay = 10;

constexpr double max_cold_bytes = 1e15;

/// Rows rising by chance: one in three million.
constexpr std::size_t min_timestamps = 10;
/// Tables of averages have at most this number of rows, and fewer than `min_timestamps` per count.
constexpr std::size_t max_averages = 200;
constexpr std::size_t min_of_a_stay = 5;
/// Noise-free rising times are frame times unless they grow like a sum of frames or exceed any frame.
constexpr double grows_like_a_sum = 1.0 / 3;
constexpr double no_frame_ms = 1000;
/// Waiting and frame time are rounded separately.
constexpr double waiting_rounded_ms = 1e-3;

struct RecordingKey {
  std::string variant;
  std::string build;
  std::string knobs;
  std::string cold_bytes;
  std::string skipped_phase;
  std::int64_t count = 0;
  std::string block;
  std::string run;

  auto tied() const { return std::tie(variant, build, knobs, cold_bytes, skipped_phase, count, block, run); }
  bool operator<(const RecordingKey& other) const { return tied() < other.tied(); }
  bool operator==(const RecordingKey& other) const { return tied() == other.tied(); }
  bool is_same_series(const RecordingKey& other) const {
    return std::tie(variant, build, knobs, cold_bytes, skipped_phase) ==
           std::tie(other.variant, other.build, other.knobs, other.cold_bytes, other.skipped_phase);
  }
};

/// First group of an expression in a file name.
std::string found_in_name(const std::string& expression, const std::string& name, const char* field) {
  const RE2 compiled(expression, RE2::Quiet);  // Linear in the name.
  if (!compiled.ok() || compiled.NumberOfCapturingGroups() < 1)
    throw Error({.kind = FaultKind::usage,
                 .field = field,
                 .problem = "not a regular expression with a group",
                 .found = expression,
                 .accepted = R"(one with a group, such as night-(\d+))"});
  std::string found;
  if (RE2::PartialMatch(name, compiled, &found) && !found.empty()) return found;
  throw Error({.kind = FaultKind::usage,
               .file = name,
               .field = field,
               .problem = "the name of the file holds no such thing",
               .found = name,
               .accepted = "an expression whose first group is in the name: " + expression});
}

class TableReader {
 public:
  TableReader(const TableFormat& format, std::uintmax_t max_bytes) : format_(&format), max_bytes_(max_bytes) {}

  void read(const std::filesystem::path& path) {
    check_regular_file(path, max_bytes_);
    std::ifstream stream(path, std::ios::binary);
    if (!stream) throw Error({.file = path.string(), .problem = "cannot be read"});
    read(stream, path);
  }

  void read(std::istream& stream, const std::filesystem::path& path) {
    begin_file(path);
    const std::size_t before = recordings_.size();
    read_csv(stream, file_, [this](const CsvRow& values, int line) { take(values, line); });
    if (recordings_.size() == before)
      throw Error({.file = file_, .problem = "no frames in it", .accepted = "a header and at least one row"});
    if (holds_timestamps()) take_differences(before);
    if (begins_at_zero_ && !recordings_[before].of_timestamps)
      throw Error({.file = file_,
                   .field = "frame_ms",
                   .problem = "not the time of a frame",
                   .found = "0",
                   .accepted = "milliseconds above 0"});
  }

  std::vector<Recording> take_all() { return std::move(recordings_); }

 private:
  void begin_file(const std::filesystem::path& path) {
    file_ = path.string();
    name_ = path.filename().string();
    variant_ = !format_->variant_from.empty() ? found_in_name(format_->variant_from, name_, "variant-from")
               : format_->variant.empty()     ? path.stem().string()
                                              : format_->variant;
    count_ = format_->count;
    if (!format_->count_from.empty())
      count_ = parse_count(found_in_name(format_->count_from, name_, "count-from"), "count-from");
    columns_.reset();
    open_.reset();
    of_file_.clear();
    processes_.clear();
    rows_.clear();
    begins_at_zero_ = false;
    ++files_;
  }

  /// Whether times rise within each recording, like timestamps.
  bool holds_timestamps() const {
    if (rows_.size() < min_timestamps || are_averages()) return false;
    for (std::size_t i = 1; i < rows_.size(); ++i)
      if (rows_[i].recording == rows_[i - 1].recording && rows_[i].ms <= rows_[i - 1].ms) return false;
    std::size_t rising = 1;
    while (rising < rows_.size() && rows_[rising].ms > rows_[rising - 1].ms) ++rising;
    const double first = rows_.front().ms, last = rows_[rising - 1].ms;
    return rising >= min_timestamps &&
           (last >= grows_like_a_sum * static_cast<double>(rising) * first || rows_[rising / 2].ms >= no_frame_ms);
  }

  /// Costs that rise with the count are no timestamps.
  bool are_averages() const {
    std::map<std::size_t, std::size_t> rows;
    for (const RowTime& row : rows_) ++rows[row.recording];
    const auto longest = std::max_element(rows.begin(), rows.end(), [](const auto& a, const auto& b) {
                           return a.second < b.second;
                         })->second;
    return longest < min_of_a_stay && rows_.size() <= max_averages;
  }

  /// The first row after a restart only marks its frame's end.
  void take_differences(std::size_t from) {
    for (std::size_t i = from; i < recordings_.size(); ++i) recordings_[i].frame_ns.clear();
    for (std::size_t i = 0; i < rows_.size(); ++i) {
      Recording& recording = recordings_[rows_[i].recording];
      recording.of_timestamps = true;
      if (i > 0 && rows_[i].ms > rows_[i - 1].ms)
        recording.frame_ns.push_back(std::max<std::int64_t>(1, std::llround((rows_[i].ms - rows_[i - 1].ms) * 1e6)));
      else
        drop_first_row(recording);
    }
    std::erase_if(recordings_, [](const Recording& recording) { return recording.frame_ns.empty(); });
  }

  static void drop_first_row(Recording& recording) {
    const auto drop = [](auto& values) {
      if (!values.empty()) values.erase(values.begin());
    };
    drop(recording.alive);
    drop(recording.yardstick_us);
    drop(recording.waited_us);
    for (auto* kind : {&recording.phases_ms, &recording.counters})
      for (auto& [name, values] : *kind) drop(values);
  }

  void take(const CsvRow& values, int line) {
    if (columns_)
      add_frame(TableRow(*columns_, values, line));
    else
      columns_.emplace(file_, values, format_->column_names, line);
  }

  void add_frame(const TableRow& row) {
    Recording& recording = recording_of(row);
    const int frames_in_row = take_warmup(row, recording) ? 1 : recording.frames_per_sample;
    const double row_ms = frame_ms(row, recording);
    recording.frame_ns.push_back(std::max<std::int64_t>(1, std::llround(row_ms * 1e6 * frames_in_row)));
    const std::size_t frames = recording.frame_ns.size();
    if (row.tells("alive")) {
      recording.alive.resize(frames - 1, recording.alive.empty() ? recording.count : recording.alive.back());
      recording.alive.push_back(row.whole("alive"));
      if (recording.alive.back() < 0) row.refuse("alive", "below zero", "a whole number from 0");
    }
    take_microseconds(row, "yardstick_us", frames, recording.yardstick_us);
    take_microseconds(row, "waited_us", frames, recording.waited_us);
    if (row.tells("waited_us") && row.number("waited_us") * 1e-3 > row_ms + waiting_rounded_ms)
      row.refuse("waited_us", "a frame cannot wait longer than it takes", fmt::format("at most {:g}", row_ms * 1000));
    if (row.tells("setup_ms")) recording.setup_ms = row.not_negative("setup_ms", max_frame_ms);
    take_kind(row, "phase:", frames, recording.phases_ms);
    take_kind(row, "counter:", frames, recording.counters);
    for (const TableHeader::Named& column : columns_->of_kind("outcome:"))
      if (const std::string& value = row.value_of(column); !value.empty())
        recording.outcome[column.name] = row.parsed(value, "outcome:" + column.name);
  }

  /// Blank means none.
  void take_microseconds(const TableRow& row, const char* column, std::size_t frames, std::vector<double>& into) const {
    if (!columns_->has(column)) return;
    into.resize(frames - 1, 0);
    into.push_back(row.tells(column) ? row.not_negative(column, max_frame_ms) : 0);
  }

  /// Warm-up frames are single and first.
  bool take_warmup(const TableRow& row, Recording& recording) const {
    if (!columns_->has("warmup")) return false;
    const std::string value = row.text("warmup", "0");
    if (value != "0" && value != "1")
      row.refuse("warmup", "neither 0 nor 1", "1 for a frame to set apart, 0 for others");
    const std::size_t before = recording.frame_ns.size();
    if (!recording.warmup) recording.warmup = 0;
    if (value == "1" && *recording.warmup != before)
      row.refuse("warmup", "a frame to set apart behind a measured one", "those to set apart first");
    *recording.warmup += value == "1";
    return value == "1";
  }

  void take_kind(const TableRow& row, const char* kind, std::size_t frames,
                 std::map<std::string, std::vector<double>>& into) const {
    for (const TableHeader::Named& column : columns_->of_kind(kind)) {
      const std::string& value = row.value_of(column);
      if (value.empty()) continue;
      std::vector<double>& values = into[column.name];
      values.resize(frames - 1, 0);
      values.push_back(row.parsed(value, kind + column.name));
      if (values.back() < 0 && std::strcmp(kind, "phase:") == 0)
        row.refuse(kind + column.name, "below zero", "milliseconds from 0");
    }
  }

  double frame_ms(const TableRow& row, Recording& recording) {
    if (columns_->has("frame_ms")) {
      const bool is_zero = rows_.empty() && row.number("frame_ms") == 0;
      const double ms = is_zero ? 0 : row.positive("frame_ms", "milliseconds above 0", max_frame_ms);
      begins_at_zero_ = begins_at_zero_ || is_zero;
      rows_.push_back({static_cast<std::size_t>(&recording - recordings_.data()), ms});
      return ms;
    }
    if (columns_->has("fps")) {
      recording.of_rates = true;
      const double ms = 1000 / row.positive("fps", "frames per second above 0", max_frame_ms);
      if (ms > max_frame_ms) row.refuse("fps", "not the rate of frames", "frames per second above 0");
      return ms;
    }
    const double low = row.positive("low", "milliseconds above 0", max_frame_ms);
    const double high = row.positive("high", "milliseconds above 0", max_frame_ms);
    if (high < low) row.refuse("high", "below what was read as low", "the two times between which the frame was read");
    recording.read_share = std::max(recording.read_share.value_or(0), std::log(high / low) / 2);
    return std::sqrt(low * high);
  }

  Recording& recording_of(const TableRow& row) {
    RecordingKey key{
        row.name("variant", variant_), row.name("build", ""), knobs_of(row),         row.text("cold_bytes", ""),
        row.name("skipped_phase", ""), count_of(row),         row.text("block", ""), row.text("run", "")};
    if (columns_->is_read_by_eye()) return recordings_[new_recording(row, key)];
    if (open_ && key == open_key_) return recordings_[*open_];
    const auto known = of_file_.find(key);
    const bool comes_back = known != of_file_.end() && !columns_->has("run") && open_ &&
                            recordings_[*open_].frame_ns.size() >= rows_of_a_stay;
    open_ = known != of_file_.end() && !comes_back ? known->second : new_recording(row, key);
    open_key_ = key;
    return recordings_[*open_];
  }

  std::size_t new_recording(const TableRow& row, const RecordingKey& key) {
    Recording recording;
    recording.file = name_;
    recording.variant = key.variant;
    recording.build = key.build;
    recording.skipped_phase = key.skipped_phase;
    recording.count = key.count;
    if (of_file_.empty()) recording.unread_columns = columns_->unread();
    recording.run = key.run;
    take_series(row, key, recording);
    if (row.tells("block")) recording.block = row.small_whole("block", 0);
    recording.process = columns_->is_read_by_eye() ? next_process_++ : process_of(key);
    recording.goes_on = open_ && !columns_->is_read_by_eye() && !columns_->has("run") && !columns_->has("block") &&
                        open_key_.is_same_series(key);
    recordings_.push_back(std::move(recording));
    of_file_[key] = recordings_.size() - 1;
    return recordings_.size() - 1;
  }

  void take_series(const TableRow& row, const RecordingKey& key, Recording& recording) const {
    try {
      recording.knobs = knobs_from_cell(key.knobs);
    } catch (const Error& error) {
      row.refuse_value("knobs", "not a list of knobs", key.knobs, error.fault().accepted);
    }
    if (row.tells("cold_bytes")) recording.cold_bytes = row.not_negative("cold_bytes", max_cold_bytes);
    if (row.tells("frames_per_sample")) recording.frames_per_sample = row.small_whole("frames_per_sample", 1);
    const std::string status = row.text("status", "kept");
    const bool is_disturbed = status == "disturbed" || status == "repeated";  // Names until 0.1.
    if (status != "kept" && !is_disturbed) row.refuse("status", "not a status of frames", "kept or disturbed");
    if (is_disturbed) recording.status = RunStatus::disturbed;
  }

  /// One process per file, unless runs are named.
  int process_of(const RecordingKey& key) {
    const std::string name = columns_->has("run")
                                 ? fmt::format("{}\n{}\n{}\n{}\n{}", files_, key.block, key.run, key.variant, key.build)
                                 : fmt::format("{}", files_);
    const auto known = processes_.find(name);
    if (known != processes_.end()) return known->second;
    return processes_[name] = next_process_++;
  }

  /// The column `knobs` and knob columns; blank: not affected.
  std::string knobs_of(const TableRow& row) const {
    std::string cell = row.text("knobs", "");
    for (const TableHeader::Named& column : columns_->of_kind("knob:"))
      if (const std::string& value = row.value_of(column); !value.empty())
        cell += (cell.empty() ? "" : " ") + knob_cell(column.name, value);
    return cell;
  }

  std::int64_t count_of(const TableRow& row) const {
    if (row.tells("count")) return row.count("count");
    if (count_) return *count_;
    if (row.tells("alive")) return row.count("alive");
    if (columns_->has("alive") && open_) return recordings_[*open_].count;
    row.refuse("count", "the table does not say how many are alive",
               "a column count or alive, or --count or --count-from for the whole file");
  }

  const TableFormat* format_;
  std::uintmax_t max_bytes_;
  std::vector<Recording> recordings_;
  int files_ = 0;
  int next_process_ = 0;
  std::string file_;
  std::string name_;
  std::string variant_;
  std::optional<std::int64_t> count_;
  std::optional<TableHeader> columns_;
  std::map<RecordingKey, std::size_t> of_file_;
  std::map<std::string, int> processes_;
  std::optional<std::size_t> open_;  ///< Of the previous row.
  RecordingKey open_key_;
  struct RowTime {
    std::size_t recording;
    double ms;
  };
  std::vector<RowTime> rows_;  ///< Of the file.
  bool begins_at_zero_ = false;
};

}  // namespace

std::vector<Recording> read_frame_tables(const std::vector<std::filesystem::path>& files, const TableFormat& format,
                                         std::uintmax_t max_bytes) {
  TableReader reader(format, max_bytes);
  for (const std::filesystem::path& file : files) reader.read(file);
  return reader.take_all();
}

std::vector<Recording> read_frame_table(std::istream& stream, const std::filesystem::path& name,
                                        const TableFormat& format) {
  TableReader reader(format, largest_table_bytes);
  reader.read(stream, name);
  return reader.take_all();
}

}  // namespace mileage
