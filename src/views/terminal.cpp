#include "views/terminal.h"

#include <algorithm>
#include <optional>
#include <vector>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "views/words.h"

namespace mileage {
namespace {

/// Minimum width for wrapping.
constexpr std::size_t narrowest_column = 16;
constexpr std::size_t more_indent = 2;

constexpr const char* plain = "\033[0m";
constexpr const char* bold = "\033[1m";
constexpr const char* faint = "\033[2m";
constexpr const char* amber = "\033[38;5;172m";

bool begins_with(const std::string& text, const std::string& start) {
  return text.compare(0, start.size(), start) == 0;
}

std::vector<std::string> lines_of(const std::string& text) {
  std::vector<std::string> lines;
  std::size_t from = 0;
  for (auto end = text.find('\n'); end != std::string::npos; end = text.find('\n', from)) {
    lines.push_back(text.substr(from, end - from));
    from = end + 1;
  }
  lines.push_back(text.substr(from));
  return lines;
}

/// With preceding blanks; a percent sign stays with its number.
std::vector<std::string> words_of(const std::string& text) {
  std::vector<std::string> words;
  std::size_t at = 0;
  while (at < text.size()) {
    const std::size_t word = text.find_first_not_of(' ', at);
    if (word == std::string::npos) break;
    const std::size_t end = std::min(text.find(' ', word), text.size());
    if (text[word] == '%' && !words.empty())
      words.back() += text.substr(at, end - at);
    else
      words.push_back(text.substr(at, end - at));
    at = end;
  }
  return words;
}

/// Between columns; further lines begin at `indent`. Wide words get their own line.
std::vector<std::string> wrapped(const std::string& text, std::size_t begin, std::size_t indent, std::size_t columns) {
  std::vector<std::string> lines{""};
  std::size_t used = begin;
  for (const std::string& word : words_of(text)) {
    const bool is_first = used == begin && lines.size() == 1;
    if (!is_first && used + width_of(word) > columns) {
      const std::string bare = word.substr(word.find_first_not_of(' '));
      lines.push_back(std::string(indent, ' ') + bare);
      used = indent + width_of(bare);
    } else {
      lines.back() += word;
      used += width_of(word);
    }
  }
  return lines;
}

bool is_rule(const std::string& line) {
  return begins_with(line, "  -") && line.find_first_not_of("- ") == std::string::npos;
}

/// Byte of a column, for UTF-8.
std::size_t byte_at(const std::string& line, std::size_t column) {
  std::size_t at = 0;
  for (std::size_t seen = 0; at < line.size(); ++at)
    if ((static_cast<unsigned char>(line[at]) & 0xC0) != 0x80 && seen++ == column) break;
  return at;
}

/// Wraps and colors lines; a table extends from the line before its rule to the next empty line.
class Page {
 public:
  Page(const Terminal& terminal, const std::string& text) : terminal_(terminal), lines_(lines_of(text)) {}

  std::string text() {
    std::vector<std::string> shown;
    for (std::size_t i = 0; i < lines_.size(); ++i) {
      const std::string& line = lines_[i];
      const bool is_heading = i + 1 < lines_.size() && is_rule(lines_[i + 1]);
      if (is_heading) last_column_ = lines_[i + 1].rfind(' ') + 1;
      if (line.empty()) {
        is_verdict_ = false;
        last_column_.reset();
        are_commands_ = false;
      }
      const char* colour = colour_of(line, is_heading || is_rule(line));
      for (const std::string& part : parts_of(line)) shown.push_back(coloured(part, colour));
      are_commands_ = are_commands_ || line == heading_of_commands;
    }
    return fmt::format("{}", fmt::join(shown, "\n"));
  }

 private:
  std::vector<std::string> parts_of(const std::string& line) const {
    if (width_of(line) <= terminal_.columns || are_commands_) return {line};
    if (!last_column_) return wrapped(line, 0, indent_of(line), terminal_.columns);
    if (*last_column_ + narrowest_column > terminal_.columns) return {line};
    if (is_rule(line)) return {line.substr(0, terminal_.columns)};
    const std::size_t last = byte_at(line, *last_column_);
    std::vector<std::string> parts = wrapped(line.substr(last), *last_column_, *last_column_, terminal_.columns);
    parts.front() = line.substr(0, last) + parts.front();
    return parts;
  }

  /// Of continuation lines: below the meaning after a gap, or slightly more than its own.
  std::size_t indent_of(const std::string& line) const {
    const std::size_t own = std::min(line.find_first_not_of(' '), line.size());
    const std::size_t gap = line.find("  ", own);
    const std::size_t meaning = gap == std::string::npos ? gap : line.find_first_not_of(' ', gap);
    const bool is_explained = meaning != std::string::npos && meaning <= terminal_.columns / 2;
    return is_explained ? meaning : own + more_indent;
  }

  /// Of a whole line, or nullptr.
  const char* colour_of(const std::string& line, bool is_head_of_table) {
    if (!terminal_.colour || line.empty()) return nullptr;
    if (begins_with(line, "warning: ") || begins_with(line, "failed: ")) return amber;
    if (is_verdict_ && line.front() != ' ') return bold;
    return is_head_of_table || line.find("(--more)") != std::string::npos ? faint : nullptr;
  }

  std::string coloured(const std::string& part, const char* colour) const {
    if (colour != nullptr) return colour + part + plain;
    const auto over = part.find("over by ");
    if (!terminal_.colour || over == std::string::npos) return part;
    const auto end = std::min(part.find("  ", over), part.size());
    return part.substr(0, over) + amber + part.substr(over, end - over) + plain + part.substr(end);
  }

  const Terminal& terminal_;
  std::vector<std::string> lines_;
  std::optional<std::size_t> last_column_;  ///< Of the current table.
  bool are_commands_ = false;               ///< In the list of commands.
  bool is_verdict_ = true;                  ///< Before the first empty line.
};

const char* kind_text(Note::Kind kind) {
  switch (kind) {
    case Note::Kind::note:
      return "note: ";
    case Note::Kind::warning:
      return "warning: ";
    case Note::Kind::failure:
      return "failed: ";
  }
  return "";
}

}  // namespace

std::string shown_on(const Terminal& terminal, const std::string& text) { return Page(terminal, text).text(); }

std::string answer_text(const Answer& answer, bool more, std::size_t columns) {
  std::string verdict, tables, notes, next;
  for (const std::string& sentence : answer.verdict) verdict += sentence + "\n";
  for (const Table& table : answer.tables)
    if (table.is_shown() && (more || !table.is_on_request()))
      tables += (table.title().empty() ? "" : table.title() + "\n\n") + table.text(columns) + "\n";
  for (const Note& note : answer.notes)
    if (more || !note.on_request) notes += kind_text(note.kind) + note.text + "\n";
  for (const std::string& file : answer.files) notes += "written: " + file + "\n";
  for (const std::string& command : answer.next) next += "  " + command + "\n";
  const auto closed = [](const std::string& part) { return part.empty() ? part : part + "\n"; };
  return closed(verdict) + closed(answer.drawing) + tables + closed(notes) +
         (next.empty() ? "" : heading_of_commands + ("\n" + closed(next)));
}

}  // namespace mileage
