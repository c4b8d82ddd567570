#include "study/frame_table.h"

#include <csv.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <exception>
#include <fstream>
#include <functional>
#include <sstream>
#include <tuple>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

/// Ten days in one frame: a column of something else.
constexpr double most_frame_ms = 1e9;

using Row = std::vector<std::string>;

/// Which visit of which cell a row belongs to.
using VisitKey = std::tuple<std::string, std::int64_t, std::string, std::string>;

/// Reads one file row by row; `take` gets every row with its line number.
class CsvReader {
 public:
  CsvReader(std::string file, std::function<void(const Row&, int)> take) : file_(std::move(file)), take_(std::move(take)) {
    csv_init(&parser_, CSV_STRICT | CSV_STRICT_FINI);
  }
  ~CsvReader() { csv_free(&parser_); }
  CsvReader(const CsvReader&) = delete;
  CsvReader& operator=(const CsvReader&) = delete;

  void read(std::istream& stream) {
    std::string line;
    while (std::getline(stream, line)) {
      ++line_;
      if (line_ == 1 && line.rfind("\xEF\xBB\xBF", 0) == 0) line.erase(0, 3);
      if (!in_row_ && !line.empty() && line.front() == '#') continue;
      line += '\n';
      in_row_ = true;
      feed(line);
    }
    if (csv_fini(&parser_, on_field, on_row, this) != 0) refuse("a quoted value is not closed");
    if (failure_) std::rethrow_exception(failure_);
  }

 private:
  void feed(const std::string& line) {
    const std::size_t read = csv_parse(&parser_, line.data(), line.size(), on_field, on_row, this);
    if (failure_) std::rethrow_exception(failure_);
    if (read != line.size()) refuse("not CSV: a quote stands inside a value");
  }
  [[noreturn]] void refuse(const char* problem) const {
    throw Error({.file = file_, .line = line_, .problem = problem, .accepted = "CSV: values separated by commas, quoted with \""});
  }
  static void on_field(void* data, std::size_t size, void* self) {
    static_cast<CsvReader*>(self)->row_.emplace_back(static_cast<const char*>(data), size);
  }
  /// Called from C: nothing may be thrown through it.
  static void on_row(int, void* self) {
    auto& reader = *static_cast<CsvReader*>(self);
    reader.in_row_ = false;
    try {
      if (!reader.failure_ && !reader.row_.empty()) reader.take_(reader.row_, reader.line_);
    } catch (...) {
      reader.failure_ = std::current_exception();
    }
    reader.row_.clear();
  }

  std::string file_;
  std::function<void(const Row&, int)> take_;
  csv_parser parser_{};
  Row row_;
  int line_ = 0;
  bool in_row_ = false;
  std::exception_ptr failure_;
};

/// Where the columns of a file stand.
class Columns {
 public:
  Columns(const std::string& file, const Row& header, const TableFormat& format, int line) : file_(file) {
    if (header.size() == 1 && header.front().find(';') != std::string::npos)
      throw Error({.file = file, .line = line, .problem = "columns are separated by semicolons",
                   .accepted = "commas between columns and a point in numbers; export the table that way"});
    for (std::size_t i = 0; i < header.size(); ++i) places_[own_name(header[i], format)] = i;
    for (const auto& [own, theirs] : format.column_names)
      if (places_.count(own) == 0) refuse_missing(own, theirs, header, line);
    if (places_.count("frame_ms") == 0) refuse_missing("frame_ms", "frame_ms", header, line);
    size_ = header.size();
  }

  std::size_t size() const { return size_; }
  const std::string* find(const Row& row, const std::string& name) const {
    const auto place = places_.find(name);
    return place == places_.end() || row[place->second].empty() ? nullptr : &row[place->second];
  }
  /// Columns of a kind such as "phase:", with the name behind it.
  std::vector<std::pair<std::string, std::string>> of_kind(const std::string& kind) const {
    std::vector<std::pair<std::string, std::string>> all;
    for (const auto& [name, place] : places_)
      if (name.rfind(kind, 0) == 0 && name.size() > kind.size()) all.emplace_back(name, name.substr(kind.size()));
    return all;
  }

 private:
  static std::string own_name(const std::string& theirs, const TableFormat& format) {
    for (const auto& [own, name] : format.column_names)
      if (name == theirs) return own;
    return theirs;
  }
  [[noreturn]] void refuse_missing(const std::string& own, const std::string& wanted, const Row& header, int line) const {
    const std::string near = nearest_name(wanted, header);
    throw Error({.file = file_, .line = line, .field = wanted, .problem = "the table has no such column",
                 .found = fmt::format("{}", fmt::join(header, ", ")),
                 .accepted = near.empty() ? fmt::format("a column {0}; or name the one that holds it: --column {0}=NAME", own)
                                          : fmt::format("--column {}={}", own, near)});
  }

  std::string file_;
  std::map<std::string, std::size_t> places_;
  std::size_t size_ = 0;
};

class TableReader {
 public:
  TableReader(Study& study, const TableFormat& format) : study_(&study), format_(&format) {}

  void read(const std::filesystem::path& path) {
    std::ifstream stream(path, std::ios::binary);
    if (!stream || std::filesystem::is_directory(path)) throw Error({.file = path.string(), .problem = "cannot be read"});
    file_ = path.string();
    stem_ = path.stem().string();
    columns_.reset();
    open_ = nullptr;
    visits_of_file_.clear();
    const std::size_t before = study_->visits.size();
    outcomes_.clear();
    CsvReader(file_, [this](const Row& row, int line) { take(row, line); }).read(stream);
    state_outcomes();
    if (study_->visits.size() == before)
      throw Error({.file = file_, .problem = "no frames in it", .accepted = "a header and at least one row"});
  }

 private:
  void take(const Row& row, int line) {
    line_ = line;
    if (!columns_) {
      columns_.emplace(file_, row, *format_, line);
      return;
    }
    if (row.size() != columns_->size())
      throw Error({.file = file_, .line = line, .problem = fmt::format("{} values in a table of {} columns", row.size(), columns_->size()),
                   .accepted = "as many values as the header has names; write decimals with a point, not with a comma"});
    add_frame(row);
  }

  void add_frame(const Row& row) {
    Visit& visit = visit_of(row);
    const double ms = number(row, "frame_ms");
    if (!(ms > 0) || ms > most_frame_ms)
      throw Error({.file = file_, .line = line_, .field = "frame_ms", .problem = "not the time of a frame", .found = *columns_->find(row, "frame_ms"),
                   .accepted = "milliseconds above 0"});
    visit.samples_ns.push_back(std::max<std::int64_t>(1, std::llround(ms * 1e6)));
    if (columns_->find(row, "alive") != nullptr) visit.alive = whole(row, "alive");
    if (columns_->find(row, "setup_ms") != nullptr) visit.setup_ms = number(row, "setup_ms");
    for (const auto& [column, name] : columns_->of_kind("phase:"))
      if (columns_->find(row, column) != nullptr) visit.phases_ms[name] += number(row, column);
    for (const auto& [column, name] : columns_->of_kind("counter:"))
      if (columns_->find(row, column) != nullptr) visit.counters[name] += number(row, column);
    for (const auto& [column, name] : columns_->of_kind("outcome:"))
      if (columns_->find(row, column) != nullptr) outcomes_[open_at_][name] = number(row, column);
  }

  /// The last value of a visit is what its world looks like in the end.
  void state_outcomes() {
    for (const auto& [visit, values] : outcomes_)
      for (const auto& [name, value] : values) study_->visits[visit].outcome.state(name, value, 0);
  }

  Visit& visit_of(const Row& row) {
    VisitKey key{text(row, "variant", format_->variant.empty() ? stem_ : format_->variant), count_of(row), text(row, "block", ""),
                 text(row, "visit", "")};
    if (open_ != nullptr && key == open_key_) return study_->visits[open_at_];
    const auto known = visits_of_file_.find(key);
    open_at_ = known != visits_of_file_.end() ? known->second : new_visit(row, key);
    open_key_ = key;
    open_ = &study_->visits;
    return study_->visits[open_at_];
  }

  std::size_t new_visit(const Row& row, const VisitKey& key) {
    Visit visit;
    visit.series.variant = std::get<0>(key);
    visit.count = visit.alive = std::get<1>(key);
    visit.order = static_cast<int>(study_->visits.size());
    visit.process = visit.order;
    visit.block = columns_->find(row, "block") != nullptr ? static_cast<int>(whole(row, "block")) : visits_of_cell(visit);
    study_->visits.push_back(visit);
    visits_of_file_[key] = study_->visits.size() - 1;
    return study_->visits.size() - 1;
  }

  /// Visits of the same cell so far, in all files.
  int visits_of_cell(const Visit& visit) const {
    return static_cast<int>(std::count_if(study_->visits.begin(), study_->visits.end(), [&](const Visit& other) {
      return other.series == visit.series && other.count == visit.count;
    }));
  }

  std::string text(const Row& row, const std::string& column, const std::string& otherwise) const {
    const std::string* value = columns_->find(row, column);
    return value != nullptr ? *value : otherwise;
  }

  std::int64_t count_of(const Row& row) const {
    if (columns_->find(row, "count") != nullptr) {
      const std::int64_t count = whole(row, "count");
      if (count < 1) throw Error({.file = file_, .line = line_, .field = "count", .problem = "not a count", .found = *columns_->find(row, "count"), .accepted = "a whole number from 1"});
      return count;
    }
    if (format_->count) return *format_->count;
    throw Error({.file = file_, .line = line_, .field = "count", .problem = "the table does not say how many are alive",
                 .accepted = "a column count, or --count for the whole file"});
  }

  double number(const Row& row, const std::string& column) const {
    const std::string* value = columns_->find(row, column);
    double parsed = 0;
    const auto refuse = [&](const char* accepted) {
      throw Error({.file = file_, .line = line_, .field = column, .problem = "not a number", .found = value == nullptr ? "" : *value, .accepted = accepted});
    };
    if (value == nullptr) refuse("a decimal number such as 16.7");
    const char* end = value->data() + value->size();
    const auto result = std::from_chars(value->data(), end, parsed);
    if (result.ptr != end && value->find(',') != std::string::npos) refuse("a point in decimal numbers, not a comma: 16.7");
    if (result.ec != std::errc() || result.ptr != end || !std::isfinite(parsed)) refuse("a decimal number such as 16.7");
    return parsed;
  }

  std::int64_t whole(const Row& row, const std::string& column) const {
    const double value = number(row, column);
    if (value != std::floor(value) || std::fabs(value) > 1e15)
      throw Error({.file = file_, .line = line_, .field = column, .problem = "not a whole number", .found = *columns_->find(row, column), .accepted = "a whole number"});
    return static_cast<std::int64_t>(value);
  }

  Study* study_;
  const TableFormat* format_;
  std::string file_;
  std::string stem_;
  int line_ = 0;
  std::optional<Columns> columns_;
  std::map<VisitKey, std::size_t> visits_of_file_;
  std::map<std::size_t, std::map<std::string, double>> outcomes_;
  const std::vector<Visit>* open_ = nullptr;  ///< Set while the last visit may go on.
  VisitKey open_key_;
  std::size_t open_at_ = 0;
};

void describe(Study& study, const TableFormat& format) {
  study.head.imported = true;
  study.head.scenario.name = format.scenario;
  study.head.scenario.entities = format.entities;
  study.head.plan.budget_ms = format.budget_ms;
  for (const Visit& visit : study.visits) {
    if (study.head.scenario.find(visit.series.variant) == nullptr) {
      study.head.scenario.variants.push_back({visit.series.variant, "", {}, ""});
      study.head.plan.series.push_back(visit.series);
    }
    study.head.plan.counts.push_back(visit.count);
  }
  std::vector<std::int64_t>& counts = study.head.plan.counts;
  std::sort(counts.begin(), counts.end());
  counts.erase(std::unique(counts.begin(), counts.end()), counts.end());
}

}  // namespace

Study read_frame_tables(const std::vector<std::filesystem::path>& files, const TableFormat& format) {
  Study study;
  TableReader reader(study, format);
  for (const std::filesystem::path& file : files) reader.read(file);
  describe(study, format);
  return study;
}

std::string csv_field(const std::string& value) {
  if (value.find_first_of(",\"\n\r#") == std::string::npos) return value;
  std::string quoted(2 * value.size() + 2, '\0');
  quoted.resize(csv_write(quoted.data(), quoted.size(), value.data(), value.size()));
  return quoted;
}

std::string frames_csv(const Study& study) {
  std::ostringstream csv;
  csv << "variant,knobs,cold_bytes,count,block,visit,status,frame,frame_ms,frames_per_sample,alive,setup_ms\n";
  for (const Visit& visit : study.visits) {
    if (visit.block < 0 || visit.samples_ns.empty()) continue;
    std::string knobs;
    for (const auto& [name, value] : visit.series.knobs.values())
      knobs += fmt::format("{}{}={}", knobs.empty() ? "" : " ", name, std::visit([](const auto& held) { return fmt::format("{}", held); }, value));
    const std::string before = fmt::format("{},{},{},{},{},{},{},", csv_field(visit.series.variant), csv_field(knobs), visit.series.cold_bytes,
                                           visit.count, visit.block, visit.order, visit.status == VisitStatus::kept ? "kept" : "repeated");
    const std::string after = fmt::format(",{},{},{}\n", visit.frames_per_sample, visit.alive, visit.setup_ms);
    for (std::size_t frame = 0; frame < visit.samples_ns.size(); ++frame)
      csv << before << frame << ',' << fmt::format("{:.6f}", static_cast<double>(visit.samples_ns[frame]) * 1e-6 / visit.frames_per_sample) << after;
  }
  return csv.str();
}

}  // namespace mileage
