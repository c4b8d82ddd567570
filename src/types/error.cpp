#include "types/error.h"

#include <fmt/format.h>

namespace mileage {
namespace {

std::string place_of(const Fault& fault) {
  if (fault.file.empty()) return {};
  return fault.line > 0 ? fmt::format("{}:{}: ", fault.file, fault.line) : fmt::format("{}: ", fault.file);
}

std::string worded(const Fault& fault) {
  std::string text = place_of(fault);
  if (!fault.field.empty()) text += fault.field + ": ";
  text += fault.problem;
  if (!fault.found.empty()) text += fmt::format("; found \"{}\"", fault.found);
  if (!fault.accepted.empty()) text += "; accepted: " + fault.accepted;
  return text;
}

}  // namespace

Error::Error(Fault fault) : fault_(std::move(fault)), message_(worded(fault_)) {}

}  // namespace mileage
