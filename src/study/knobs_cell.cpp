#include "study/knobs_cell.h"

#include <charconv>
#include <cmath>
#include <sstream>

#include <fmt/format.h>

#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

std::string escaped_value(const std::string& text) {
  std::string all;
  for (const char c : text)
    all += c == ' ' || c == '=' || c == '%' || c == '\t' || c == '\n'
               ? fmt::format("%{:02x}", static_cast<unsigned char>(c))
               : std::string(1, c);
  return all;
}

std::string unescaped_value(const std::string& text) {
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

}  // namespace

std::string knob_cell(const std::string& name, const std::string& value) {
  return escaped_value(name) + "=" + escaped_value(value);
}

std::string knobs_cell(const Knobs& knobs) {
  std::string cell;
  for (const auto& [name, value] : knobs.values()) {
    const auto* number = std::get_if<double>(&value);
    if (!cell.empty()) cell += " ";
    cell += knob_cell(name, number != nullptr ? fmt::format("{}", *number) : std::get<std::string>(value));
  }
  return cell;
}

Knobs knobs_from_cell(const std::string& cell) {
  Knobs knobs;
  std::istringstream parts(cell);
  for (std::string part; parts >> part;) {
    const auto knob = named_value(part);
    if (!knob)
      throw Error({.field = "knobs",
                   .problem = "not a list of knobs",
                   .found = cell,
                   .accepted = "names with values: scatter=1 workers=2"});
    const std::string& value = knob->second;
    double number = 0;
    const auto [end, error] = std::from_chars(value.data(), value.data() + value.size(), number);
    const bool is_number = error == std::errc() && end == value.data() + value.size() && std::isfinite(number);
    knobs.set(unescaped_value(knob->first), is_number ? KnobValue(number) : KnobValue(unescaped_value(value)));
  }
  return knobs;
}

}  // namespace mileage
