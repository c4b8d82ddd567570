#include "tool/plan_text.h"

#include <fmt/format.h>

#include "types/error.h"
#include "types/text.h"

namespace mileage {
namespace {

[[noreturn]] void refuse(const std::string& file, int line, const std::string& problem, const std::string& accepted) {
  throw Error({.file = file, .line = line, .problem = problem, .accepted = accepted});
}

/// Outside of quotes.
int dots_in(std::string_view line) {
  int dots = 0;
  char quote = '\0';
  for (std::size_t i = 0; i < line.size(); ++i) {
    if (quote == '"' && line[i] == '\\') {
      ++i;
    } else if (quote != '\0') {
      quote = line[i] == quote ? '\0' : quote;
    } else if (line[i] == '"' || line[i] == '\'') {
      quote = line[i];
    } else if (line[i] == '#') {
      break;
    } else {
      dots += line[i] == '.';
    }
  }
  return dots;
}

void check_lines(std::string_view text, const std::string& file) {
  for (int number = 1; !text.empty(); ++number) {
    const auto end = text.find('\n');
    std::string_view line = text.substr(0, end);
    if (!line.empty() && line.back() == '\r') line.remove_suffix(1);
    if (line.size() > max_plan_line)
      refuse(file, number, fmt::format("a line of {} bytes", line.size()),
             fmt::format("lines of at most {} bytes", max_plan_line));
    if (dots_in(line) > max_dots_in_plan_line)
      refuse(file, number, "keys nested too deeply", fmt::format("at most {} dots in a line", max_dots_in_plan_line));
    if (printable(line) != line) refuse(file, number, "bytes that are no text", "UTF-8 without control characters");
    text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
  }
}

}  // namespace

toml::table parsed_plan(const std::string& text, const std::string& file) {
  if (text.size() > max_plan_bytes)
    refuse(file, 0, "too large for a plan", fmt::format("at most {} bytes", max_plan_bytes));
  const std::string_view plain =
      text.rfind("\xEF\xBB\xBF", 0) == 0 ? std::string_view(text).substr(3) : std::string_view(text);
  check_lines(plain, file);
  try {
    return toml::parse(plain);
  } catch (const toml::parse_error& error) {
    throw Error({.file = file,
                 .line = static_cast<int>(error.source().begin.line),
                 .problem = fmt::format("not TOML: {}", error.description())});
  }
}

}  // namespace mileage
