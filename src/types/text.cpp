#include "types/text.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cstdint>

#include <fmt/format.h>

namespace mileage {
namespace {

struct Character {
  std::uint32_t code;
  std::size_t bytes;  ///< 0: not UTF-8.
};

/// Of a non-empty text.
Character first_character(std::string_view text) {
  const auto byte = [&](std::size_t i) { return static_cast<std::uint32_t>(static_cast<unsigned char>(text[i])); };
  const std::uint32_t lead = byte(0);
  const std::size_t bytes = lead < 0x80                   ? 1
                            : lead >= 0xF0 && lead < 0xF5 ? 4
                            : lead >= 0xE0 && lead < 0xF0 ? 3
                            : lead >= 0xC2 && lead < 0xE0 ? 2
                                                          : 0;
  if (bytes == 0 || bytes > text.size()) return {0, 0};
  std::uint32_t code = bytes == 1 ? lead : lead & (0xFFU >> (bytes + 1));
  for (std::size_t i = 1; i < bytes; ++i) {
    if ((byte(i) & 0xC0U) != 0x80U) return {0, 0};
    code = (code << 6U) | (byte(i) & 0x3FU);
  }
  constexpr std::array<std::uint32_t, 5> min{0, 0, 0x80, 0x800, 0x10000};
  const bool is_surrogate = code >= 0xD800 && code < 0xE000;
  return code < min[bytes] || is_surrogate || code > 0x10FFFF ? Character{0, 0} : Character{code, bytes};
}

bool turns_direction(std::uint32_t code) {
  return code == 0x061C || code == 0x200E || code == 0x200F || (code >= 0x202A && code <= 0x202E) ||
         (code >= 0x2066 && code <= 0x2069);
}

bool is_shown(std::uint32_t code) {
  const bool is_control = code < 0x20 || (code >= 0x7F && code < 0xA0);
  const bool separates_lines = code == 0x2028 || code == 0x2029;
  return !is_control && !separates_lines && !turns_direction(code) && code != 0xFEFF && code != 0xFFFE &&
         code != 0xFFFF;
}

template <class Blank>
std::string cleaned(std::string_view text, Blank blank) {
  std::string clean;
  clean.reserve(text.size());
  while (!text.empty()) {
    const Character character = first_character(text);
    const std::size_t bytes = std::max<std::size_t>(1, character.bytes);
    if (const char instead = blank(text.front()); instead != '\0')
      clean += instead;
    else if (character.bytes > 0 && is_shown(character.code))
      clean += text.substr(0, bytes);
    else
      clean += '?';
    text.remove_prefix(bytes);
  }
  return clean;
}

bool ends_with(const std::string& text, std::string_view ending) {
  return text.size() > ending.size() && text.compare(text.size() - ending.size(), ending.size(), ending) == 0;
}

}  // namespace

std::string printable(std::string_view text) {
  return cleaned(text, [](char c) { return c == '\n' || c == '\t' ? c : '\0'; });
}

std::string printable_line(std::string_view text) {
  return cleaned(text, [](char c) { return c == '\n' || c == '\t' || c == '\r' ? ' ' : '\0'; });
}

std::string shortened(std::string_view text, std::size_t max) {
  if (text.size() <= max) return std::string(text);
  std::size_t end = max;
  while (end > 0 && (static_cast<unsigned char>(text[end]) & 0xC0U) == 0x80U) --end;
  return fmt::format("{}... ({} bytes)", text.substr(0, end), text.size());
}

std::string without_paths(const std::string& text) {
  static const std::string ends_of_words = " \t\r\n='\"(),;";
  std::string cut;
  std::size_t word = 0;  // Start of the current word in `cut`.
  for (const char c : text) {
    cut += c;
    if (ends_of_words.find(c) != std::string::npos) word = cut.size();
    // " / " separates lines.
    const bool is_alone = cut.size() - word == 1 && (word == 0 || cut[word - 1] == ' ');
    if (c == '/' && !is_alone) cut.resize(word);
    if (c != '/' && cut.size() - word == 2 && cut[word] == '/' && c != ' ') cut.erase(word, 1);
  }
  return cut;
}

std::string shell_word(const std::string& word) {
  const auto is_plain = [](unsigned char c) {
    return std::isalnum(c) != 0 || std::string_view("_-./,:=@%+").find(static_cast<char>(c)) != std::string_view::npos;
  };
  if (!word.empty() && std::all_of(word.begin(), word.end(), is_plain)) return word;
  std::string quoted = "'";
  for (const char c : word) quoted += c == '\'' ? std::string("'\\''") : std::string(1, c);
  return quoted + "'";
}

std::string singular(const std::string& plural) {
  if (ends_with(plural, "ies"))
    return plural.size() > 4 ? plural.substr(0, plural.size() - 3) + "y" : plural.substr(0, plural.size() - 1);
  for (const char* ending : {"xes", "ches", "shes", "sses"})
    if (ends_with(plural, ending)) return plural.substr(0, plural.size() - 2);
  return plural.size() > 1 && plural.back() == 's' && !ends_with(plural, "ss") ? plural.substr(0, plural.size() - 1)
                                                                               : plural;
}

}  // namespace mileage
