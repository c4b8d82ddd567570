#include "types/error.h"

#include <fmt/format.h>

#include "types/text.h"

namespace mileage {
namespace {

/// In bytes: what was found may be megabytes.
constexpr std::size_t longest_found = 160;
constexpr std::size_t longest_part = 2000;

std::string place_of(const Fault& fault) {
  if (fault.file.empty()) return {};
  return fault.line > 0 ? fmt::format("{}:{}: ", fault.file, fault.line) : fmt::format("{}: ", fault.file);
}

std::string worded(const Fault& fault) {
  std::string text = place_of(fault);
  if (!fault.field.empty()) text += shortened(fault.field, longest_found) + ": ";
  text += shortened(fault.problem, longest_part);
  if (!fault.found.empty()) text += fmt::format("; found \"{}\"", shortened(fault.found, longest_found));
  if (!fault.accepted.empty()) text += "; accepted: " + shortened(fault.accepted, longest_part);
  return text;
}

}  // namespace

Error::Error(Fault fault) : fault_(std::move(fault)), message_(worded(fault_)) {}

}  // namespace mileage
