#include "study/csv_reader.h"

#include <csv.h>

#include <exception>
#include <string_view>

#include "types/error.h"
#include "types/text.h"

namespace mileage {
namespace {

class CsvReader {
 public:
  CsvReader(const std::string& file, const std::function<void(const CsvRow&, int)>& take) : file_(file), take_(take) {
    csv_init(&parser_, CSV_STRICT | CSV_STRICT_FINI);
    csv_set_blk_size(&parser_, std::size_t{1} << 16U);  // Buffer growth for long values.
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
    throw Error({.file = file_,
                 .line = line_,
                 .problem = problem,
                 .accepted = "CSV: values separated by commas, quoted with \""});
  }
  static void on_field(void* data, std::size_t size, void* self) {
    static_cast<CsvReader*>(self)->row_.emplace_back(static_cast<const char*>(data), size);
  }
  /// Called from C: must not throw.
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

  const std::string& file_;
  const std::function<void(const CsvRow&, int)>& take_;
  csv_parser parser_{};
  CsvRow row_;
  int line_ = 0;
  bool in_row_ = false;
  std::exception_ptr failure_;
};

/// A leading apostrophe is doubled.
bool is_taken_for_a_formula(const std::string& text) {
  return !text.empty() && std::string_view("=+-@'").find(text.front()) != std::string_view::npos;
}

}  // namespace

void read_csv(std::istream& stream, const std::string& file, const std::function<void(const CsvRow&, int)>& take) {
  CsvReader(file, take).read(stream);
}

std::string csv_field(const std::string& value) {
  std::string text = printable_line(value);
  if (is_taken_for_a_formula(text)) text.insert(text.begin(), '\'');
  if (text.find_first_of(",\"#") == std::string::npos) return text;
  std::string quoted(2 * text.size() + 2, '\0');
  quoted.resize(csv_write(quoted.data(), quoted.size(), text.data(), text.size()));
  return quoted;
}

std::string text_of_csv_field(const std::string& value) {
  return value.size() > 1 && value.front() == '\'' && is_taken_for_a_formula(value.substr(1)) ? value.substr(1) : value;
}

}  // namespace mileage
