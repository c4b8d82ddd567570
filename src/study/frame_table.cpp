#include "study/frame_table.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstring>
#include <fstream>
#include <sstream>
#include <tuple>

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <re2/re2.h>

#include "study/csv_reader.h"
#include "study/table_columns.h"
#include "system/files.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

/// Ten days in one frame: a column of something else.
constexpr double most_frame_ms = 1e9;
/// A count that comes back after so many rows is visited anew.
constexpr std::size_t rows_of_a_stay = 10;

constexpr std::int64_t most_number = 1'000'000'000;
constexpr double most_cold_bytes = 1e15;

/// Which recording a row belongs to: series, count, block, visit.
struct RecordingKey {
  std::string variant;
  std::string build;
  std::string knobs;
  std::string cold_bytes;
  std::string without;
  std::int64_t count = 0;
  std::string block;
  std::string visit;

  auto tied() const { return std::tie(variant, build, knobs, cold_bytes, without, count, block, visit); }
  bool operator<(const RecordingKey& other) const { return tied() < other.tied(); }
  bool operator==(const RecordingKey& other) const { return tied() == other.tied(); }
  bool is_same_series(const RecordingKey& other) const {
    return std::tie(variant, build, knobs, cold_bytes, without) ==
           std::tie(other.variant, other.build, other.knobs, other.cold_bytes, other.without);
  }
};

std::string escaped(const std::string& text) {
  std::string all;
  for (const char c : text)
    all += c == ' ' || c == '=' || c == '%' || c == '\t' || c == '\n'
               ? fmt::format("%{:02x}", static_cast<unsigned char>(c))
               : std::string(1, c);
  return all;
}

std::string unescaped(const std::string& text) {
  std::string all;
  for (std::size_t i = 0; i < text.size(); ++i) {
    unsigned code = 0;
    const bool is_escape = text[i] == '%' && i + 2 < text.size() &&
                           std::from_chars(&text[i + 1], &text[i + 1] + 2, code, 16).ptr == &text[i + 1] + 2;
    all += is_escape ? static_cast<char>(code) : text[i];
    if (is_escape) i += 2;
  }
  return all;
}

[[noreturn]] void refuse_knobs(const std::string& cell) {
  throw Error({.field = "knobs",
               .problem = "not a list of knobs",
               .found = cell,
               .accepted = "names with values: scatter=1 workers=2"});
}

/// What recorder headers write besides the columns that people are told of.
constexpr const char* columns_of_recorders[] = {"yardstick_us", "waited_us"};
constexpr const char* kinds_of_columns[] = {"phase:", "counter:", "outcome:", "knob:"};

bool is_of_kind(const std::string& name, const char* kind) {
  return name.rfind(kind, 0) == 0 && name.size() > std::strlen(kind);
}

bool is_read(const std::string& name) {
  const auto& told = table_columns();
  return std::any_of(told.begin(), told.end(), [&](const TableColumn& column) { return column.name == name; }) ||
         std::any_of(std::begin(columns_of_recorders), std::end(columns_of_recorders),
                     [&](const char* column) { return name == column; }) ||
         std::any_of(std::begin(kinds_of_columns), std::end(kinds_of_columns),
                     [&](const char* kind) { return is_of_kind(name, kind); });
}

/// Where the columns of a file stand.
class Columns {
 public:
  Columns(const std::string& file, const CsvRow& header, const TableFormat& format, int line) : file_(file) {
    if (header.size() == 1 && header.front().find(';') != std::string::npos)
      throw Error({.file = file,
                   .line = line,
                   .problem = "columns are separated by semicolons",
                   .accepted = "commas between columns and a point in numbers; export the table that way"});
    const bool has_frame_ms = std::find(header.begin(), header.end(), "frame_ms") != header.end();
    for (std::size_t i = 0; i < header.size(); ++i) {
      std::string name = own_name(header[i], format);
      if (name == "ms" && !has_frame_ms && format.column_names.count("frame_ms") == 0) name = "frame_ms";
      if (!is_read(name)) unread_.push_back(name);
      if (!places_.emplace(name, i).second && !name.empty())
        throw Error({.file = file,
                     .line = line,
                     .field = name,
                     .problem = "two columns of that name",
                     .accepted = "each column once"});
    }
    for (const auto& [own, theirs] : format.column_names)
      if (places_.count(own) == 0) refuse_missing(own, theirs, header, line);
    if (!has("frame_ms") && !has("fps") && !(has("low") && has("high")))
      refuse_missing("frame_ms", "frame_ms", header, line);
    size_ = header.size();
    for (const char* kind : kinds_of_columns) {
      auto& named = kinds_[kind];
      for (const auto& [name, place] : places_)
        if (is_of_kind(name, kind)) named.push_back({name.substr(std::strlen(kind)), place});
    }
  }

  std::size_t size() const { return size_; }
  const std::vector<std::string>& unread() const { return unread_; }
  bool has(const std::string& name) const { return places_.count(name) > 0; }
  /// Every row is a reading by itself then.
  bool is_read_by_eye() const { return !has("frame_ms") && !has("fps"); }
  const std::string* find(const CsvRow& row, const std::string& name) const {
    const auto place = places_.find(name);
    return place == places_.end() || row[place->second].empty() ? nullptr : &row[place->second];
  }
  /// Columns of a kind such as "phase:": the name behind it, and their place.
  struct Named {
    std::string name;
    std::size_t place;
  };
  const std::vector<Named>& of_kind(const char* kind) const { return kinds_.find(kind)->second; }

 private:
  static std::string own_name(const std::string& theirs, const TableFormat& format) {
    for (const auto& [own, name] : format.column_names)
      if (name == theirs) return own;
    return theirs;
  }
  [[noreturn]] void refuse_missing(const std::string& own, const std::string& wanted, const CsvRow& header,
                                   int line) const {
    const std::string near = nearest_name(wanted, header);
    throw Error({.file = file_,
                 .line = line,
                 .field = wanted,
                 .problem = "the table has no such column",
                 .found = fmt::format("{}", fmt::join(header, ", ")),
                 .accepted = near.empty()
                                 ? fmt::format("a column {0}; or name the one that holds it: --column {0}=NAME", own)
                                 : fmt::format("--column {}={}", own, near)});
  }

  std::string file_;
  std::map<std::string, std::size_t> places_;
  std::vector<std::string> unread_;
  std::map<std::string, std::vector<Named>, std::less<>> kinds_;
  std::size_t size_ = 0;
};

/// What the first group of an expression finds in the name of a file.
std::string found_in_name(const std::string& expression, const std::string& name, const char* field) {
  const RE2 compiled(expression, RE2::Quiet);  // takes time linear in the name, whatever the expression
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
  TableReader(const TableFormat& format, std::uintmax_t most_bytes) : format_(&format), most_bytes_(most_bytes) {}

  void read(const std::filesystem::path& path) {
    check_regular_file(path, most_bytes_);
    std::ifstream stream(path, std::ios::binary);
    if (!stream) throw Error({.file = path.string(), .problem = "cannot be read"});
    read(stream, path);
  }

  void read(std::istream& stream, const std::filesystem::path& path) {
    begin_file(path);
    const std::size_t before = recordings_.size();
    read_csv(stream, file_, [this](const CsvRow& row, int line) { take(row, line); });
    if (recordings_.size() == before)
      throw Error({.file = file_, .problem = "no frames in it", .accepted = "a header and at least one row"});
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
    ++files_;
  }

  void take(const CsvRow& row, int line) {
    line_ = line;
    if (!columns_) {
      columns_.emplace(file_, row, *format_, line);
      return;
    }
    if (row.size() != columns_->size())
      throw Error(
          {.file = file_,
           .line = line,
           .problem = fmt::format("{} values in a table of {} columns", row.size(), columns_->size()),
           .accepted = "as many values as the header has names; write decimals with a point, not with a comma"});
    add_frame(row);
  }

  void add_frame(const CsvRow& row) {
    Recording& recording = recording_of(row);
    const int frames_in_row = take_warmup(row, recording) ? 1 : recording.frames_per_sample;
    recording.frame_ns.push_back(
        std::max<std::int64_t>(1, std::llround(frame_ms(row, recording) * 1e6 * frames_in_row)));
    const std::size_t frames = recording.frame_ns.size();
    if (columns_->find(row, "alive") != nullptr) {
      recording.alive.resize(frames - 1, recording.alive.empty() ? recording.count : recording.alive.back());
      recording.alive.push_back(whole(row, "alive"));
      if (recording.alive.back() < 0)
        refuse_value("alive", "below zero", *columns_->find(row, "alive"), "a whole number from 0");
    }
    take_microseconds(row, "yardstick_us", frames, recording.yardstick_us);
    take_microseconds(row, "waited_us", frames, recording.waited_us);
    if (columns_->find(row, "setup_ms") != nullptr) recording.setup_ms = not_negative(row, "setup_ms", most_frame_ms);
    take_kind(row, "phase:", frames, recording.phases_ms);
    take_kind(row, "counter:", frames, recording.counters);
    for (const auto& [name, place] : columns_->of_kind("outcome:"))
      if (!row[place].empty()) recording.outcome[name] = parsed(row[place], "outcome:" + name);
  }

  /// Blank means none.
  void take_microseconds(const CsvRow& row, const char* column, std::size_t frames, std::vector<double>& into) const {
    if (!columns_->has(column)) return;
    into.resize(frames - 1, 0);
    into.push_back(columns_->find(row, column) != nullptr ? not_negative(row, column, most_frame_ms) : 0);
  }

  /// Whether a row holds a frame to set apart, which are always single ones. They come first.
  bool take_warmup(const CsvRow& row, Recording& recording) const {
    if (!columns_->has("warmup")) return false;
    const std::string value = text(row, "warmup", "0");
    if (value != "0" && value != "1")
      throw Error({.file = file_,
                   .line = line_,
                   .field = "warmup",
                   .problem = "neither 0 nor 1",
                   .found = value,
                   .accepted = "1 for a frame to set apart, 0 for others"});
    const std::size_t before = recording.frame_ns.size();
    if (!recording.warmup) recording.warmup = 0;
    if (value == "1" && *recording.warmup != before)
      throw Error({.file = file_,
                   .line = line_,
                   .field = "warmup",
                   .problem = "a frame to set apart behind a measured one",
                   .accepted = "those to set apart first"});
    *recording.warmup += value == "1";
    return value == "1";
  }

  void take_kind(const CsvRow& row, const char* kind, std::size_t frames,
                 std::map<std::string, std::vector<double>>& into) const {
    for (const auto& [name, place] : columns_->of_kind(kind)) {
      if (row[place].empty()) continue;
      std::vector<double>& values = into[name];
      values.resize(frames - 1, 0);
      values.push_back(parsed(row[place], kind + name));
      if (values.back() < 0 && std::strcmp(kind, "phase:") == 0)
        refuse_value(kind + name, "below zero", row[place], "milliseconds from 0");
    }
  }

  double frame_ms(const CsvRow& row, Recording& recording) const {
    if (columns_->has("frame_ms")) return positive(row, "frame_ms", "milliseconds above 0", most_frame_ms);
    if (columns_->has("fps")) {
      recording.of_rates = true;
      const double ms = 1000 / positive(row, "fps", "frames per second above 0", most_frame_ms);
      if (ms > most_frame_ms)
        refuse_value("fps", "not the rate of frames", *columns_->find(row, "fps"), "frames per second above 0");
      return ms;
    }
    const double low = positive(row, "low", "milliseconds above 0", most_frame_ms);
    const double high = positive(row, "high", "milliseconds above 0", most_frame_ms);
    if (high < low)
      throw Error({.file = file_,
                   .line = line_,
                   .field = "high",
                   .problem = "below what was read as low",
                   .found = *columns_->find(row, "high"),
                   .accepted = "the two times between which the frame was read"});
    recording.read_share = std::max(recording.read_share.value_or(0), std::log(high / low) / 2);
    return std::sqrt(low * high);
  }

  [[noreturn]] void refuse_value(const std::string& column, const char* problem, const std::string& found,
                                 const std::string& accepted) const {
    throw Error(
        {.file = file_, .line = line_, .field = column, .problem = problem, .found = found, .accepted = accepted});
  }

  double not_negative(const CsvRow& row, const char* column, double most) const {
    const double value = number(row, column);
    if (value < 0 || value > most)
      refuse_value(column, "out of range", *columns_->find(row, column), "a number from 0");
    return value;
  }

  int small_whole(const CsvRow& row, const char* column, std::int64_t least) const {
    const std::int64_t value = whole(row, column);
    if (value < least || value > most_number)
      refuse_value(column, "out of range", *columns_->find(row, column), fmt::format("a whole number from {}", least));
    return static_cast<int>(value);
  }

  double positive(const CsvRow& row, const char* column, const char* accepted, double most) const {
    const double value = number(row, column);
    if (!(value > 0) || value > most)
      throw Error({.file = file_,
                   .line = line_,
                   .field = column,
                   .problem = "not the time of a frame",
                   .found = *columns_->find(row, column),
                   .accepted = accepted});
    return value;
  }

  Recording& recording_of(const CsvRow& row) {
    RecordingKey key{name_in(row, "variant", variant_),
                     name_in(row, "build", ""),
                     knobs_of(row),
                     text(row, "cold_bytes", ""),
                     name_in(row, "without", ""),
                     count_of(row),
                     text(row, "block", ""),
                     text(row, "visit", "")};
    if (columns_->is_read_by_eye()) return recordings_[new_recording(row, key)];
    if (open_ && key == open_key_) return recordings_[*open_];
    const auto known = of_file_.find(key);
    const bool comes_back = known != of_file_.end() && !columns_->has("visit") && open_ &&
                            recordings_[*open_].frame_ns.size() >= rows_of_a_stay;
    open_ = known != of_file_.end() && !comes_back ? known->second : new_recording(row, key);
    open_key_ = key;
    return recordings_[*open_];
  }

  std::size_t new_recording(const CsvRow& row, const RecordingKey& key) {
    Recording recording;
    recording.file = name_;
    recording.variant = key.variant;
    recording.build = key.build;
    recording.without = key.without;
    recording.count = key.count;
    if (of_file_.empty()) recording.unread_columns = columns_->unread();
    recording.visit = key.visit;
    take_series(row, key, recording);
    if (columns_->find(row, "block") != nullptr) recording.block = small_whole(row, "block", 0);
    recording.process = columns_->is_read_by_eye() ? next_process_++ : process_of(key);
    recording.goes_on = open_ && !columns_->is_read_by_eye() && !columns_->has("visit") && !columns_->has("block") &&
                        open_key_.is_same_series(key);
    recordings_.push_back(std::move(recording));
    of_file_[key] = recordings_.size() - 1;
    return recordings_.size() - 1;
  }

  void take_series(const CsvRow& row, const RecordingKey& key, Recording& recording) const {
    try {
      recording.knobs = knobs_from_cell(key.knobs);
    } catch (const Error& error) {
      refuse_value("knobs", "not a list of knobs", key.knobs, error.fault().accepted);
    }
    if (columns_->find(row, "cold_bytes") != nullptr)
      recording.cold_bytes = not_negative(row, "cold_bytes", most_cold_bytes);
    if (columns_->find(row, "frames_per_sample") != nullptr)
      recording.frames_per_sample = small_whole(row, "frames_per_sample", 1);
    const std::string status = text(row, "status", "kept");
    const bool is_disturbed = status == "disturbed" || status == "repeated";  // as writers called it until 0.1
    if (status != "kept" && !is_disturbed)
      refuse_value("status", "not a status of frames", status, "kept or disturbed");
    if (is_disturbed) recording.status = VisitStatus::disturbed;
  }

  /// Rows of one file ran in one process, unless its visits are told apart.
  int process_of(const RecordingKey& key) {
    const std::string name =
        columns_->has("visit") ? fmt::format("{}\n{}\n{}\n{}\n{}", files_, key.block, key.visit, key.variant, key.build)
                               : fmt::format("{}", files_);
    const auto known = processes_.find(name);
    if (known != processes_.end()) return known->second;
    return processes_[name] = next_process_++;
  }

  std::string text(const CsvRow& row, const std::string& column, const std::string& otherwise) const {
    const std::string* value = columns_->find(row, column);
    return value != nullptr ? *value : otherwise;
  }

  /// As in the column `knobs`, with those that have a column of their own; blank means that it does not touch the row.
  std::string knobs_of(const CsvRow& row) const {
    std::string cell = text(row, "knobs", "");
    for (const auto& [name, place] : columns_->of_kind("knob:"))
      if (!row[place].empty())
        cell += fmt::format("{}{}={}", cell.empty() ? "" : " ", escaped(name), escaped(row[place]));
    return cell;
  }

  std::string name_in(const CsvRow& row, const std::string& column, const std::string& otherwise) const {
    return text_of_csv_field(text(row, column, otherwise));
  }

  std::int64_t count_of(const CsvRow& row) const {
    if (columns_->find(row, "count") != nullptr) return count_in(row, "count");
    if (count_) return *count_;
    if (columns_->find(row, "alive") != nullptr) return count_in(row, "alive");
    if (columns_->has("alive") && open_) return recordings_[*open_].count;
    throw Error({.file = file_,
                 .line = line_,
                 .field = "count",
                 .problem = "the table does not say how many are alive",
                 .accepted = "a column count or alive, or --count or --count-from for the whole file"});
  }

  std::int64_t count_in(const CsvRow& row, const char* column) const {
    const std::int64_t count = whole(row, column);
    if (count < 1)
      throw Error({.file = file_,
                   .line = line_,
                   .field = column,
                   .problem = "not a count",
                   .found = *columns_->find(row, column),
                   .accepted = "a whole number from 1"});
    return count;
  }

  double number(const CsvRow& row, const std::string& column) const {
    const std::string* value = columns_->find(row, column);
    return parsed(value == nullptr ? "" : *value, column);
  }

  double parsed(const std::string& value, const std::string& column) const {
    double number = 0;
    const auto refuse = [&](const char* accepted) {
      throw Error({.file = file_,
                   .line = line_,
                   .field = column,
                   .problem = "not a number",
                   .found = value,
                   .accepted = accepted});
    };
    const char* end = value.data() + value.size();
    const auto result = std::from_chars(value.data(), end, number);
    if (result.ptr != end && value.find(',') != std::string::npos)
      refuse("a point in decimal numbers, not a comma: 16.7");
    if (result.ec != std::errc() || result.ptr != end || !std::isfinite(number))
      refuse("a decimal number such as 16.7");
    return number;
  }

  std::int64_t whole(const CsvRow& row, const std::string& column) const {
    const double value = number(row, column);
    if (value != std::floor(value) || std::fabs(value) > 1e15)
      throw Error({.file = file_,
                   .line = line_,
                   .field = column,
                   .problem = "not a whole number",
                   .found = *columns_->find(row, column),
                   .accepted = "a whole number"});
    return static_cast<std::int64_t>(value);
  }

  const TableFormat* format_;
  std::uintmax_t most_bytes_;
  std::vector<Recording> recordings_;
  int files_ = 0;
  int next_process_ = 0;
  std::string file_;
  std::string name_;
  std::string variant_;
  std::optional<std::int64_t> count_;
  int line_ = 0;
  std::optional<Columns> columns_;
  std::map<RecordingKey, std::size_t> of_file_;
  std::map<std::string, int> processes_;
  std::optional<std::size_t> open_;  ///< The recording of the row before.
  RecordingKey open_key_;
};

}  // namespace

std::vector<Recording> read_frame_tables(const std::vector<std::filesystem::path>& files, const TableFormat& format,
                                         std::uintmax_t most_bytes) {
  TableReader reader(format, most_bytes);
  for (const std::filesystem::path& file : files) reader.read(file);
  return reader.take_all();
}

std::vector<Recording> read_frame_table(std::istream& stream, const std::filesystem::path& name,
                                        const TableFormat& format) {
  TableReader reader(format, largest_table_bytes);
  reader.read(stream, name);
  return reader.take_all();
}

std::string knobs_cell(const Knobs& knobs) {
  std::string cell;
  for (const auto& [name, value] : knobs.values()) {
    const auto* number = std::get_if<double>(&value);
    cell += fmt::format("{}{}={}", cell.empty() ? "" : " ", escaped(name),
                        number != nullptr ? fmt::format("{}", *number) : escaped(std::get<std::string>(value)));
  }
  return cell;
}

Knobs knobs_from_cell(const std::string& cell) {
  Knobs knobs;
  std::istringstream parts(cell);
  for (std::string part; parts >> part;) {
    const auto knob = named_value(part);
    if (!knob) refuse_knobs(cell);
    const std::string& value = knob->second;
    double number = 0;
    const auto [end, error] = std::from_chars(value.data(), value.data() + value.size(), number);
    const bool is_number = error == std::errc() && end == value.data() + value.size() && std::isfinite(number);
    knobs.set(unescaped(knob->first), is_number ? KnobValue(number) : KnobValue(unescaped(value)));
  }
  return knobs;
}

}  // namespace mileage
