#include "mileage/types/knobs.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include "types/error.h"

namespace mileage {

namespace {

template <class Range>
Knob numeric_knob(std::string name, std::string meaning, const Range& range, bool whole) {
  Knob knob;
  knob.name = std::move(name);
  knob.meaning = std::move(meaning);
  knob.default_value = static_cast<double>(range.default_value);
  knob.min = static_cast<double>(range.min);
  knob.max = static_cast<double>(range.max);
  knob.unit = range.unit;
  knob.whole = whole;
  return knob;
}

}  // namespace

Knob Knob::real(std::string name, std::string meaning, RealRange range) {
  return numeric_knob(std::move(name), std::move(meaning), range, false);
}

Knob Knob::integer(std::string name, std::string meaning, IntegerRange range) {
  return numeric_knob(std::move(name), std::move(meaning), range, true);
}

Knob Knob::choice(std::string name, std::string meaning, std::vector<std::string> choices) {
  Knob knob;
  knob.name = std::move(name);
  knob.meaning = std::move(meaning);
  knob.default_value = choices.empty() ? std::string() : choices.front();
  knob.choices = std::move(choices);
  return knob;
}

Knob Knob::affecting(std::vector<std::string> variants) const {
  Knob copy = *this;
  copy.affects = std::move(variants);
  return copy;
}

Knob Knob::splitting_count() const {
  Knob copy = *this;
  copy.splits_count = true;
  return copy;
}

bool Knob::is_affecting(std::string_view variant) const {
  return affects.empty() || std::find(affects.begin(), affects.end(), variant) != affects.end();
}

namespace {

template <class Value>
const Value& value_of(const std::map<std::string, KnobValue, std::less<>>& values, std::string_view name,
                      const char* kind) {
  const auto found = values.find(name);
  if (found == values.end())
    throw Error({.kind = FaultKind::variant,
                 .problem = "the variant asks for a knob that its scenario does not declare",
                 .found = std::string(name)});
  const auto* value = std::get_if<Value>(&found->second);
  if (value == nullptr)
    throw Error({.kind = FaultKind::variant,
                 .problem = std::string("the variant asks for the value of a knob as a ") + kind + ", which it is not",
                 .found = std::string(name)});
  return *value;
}

}  // namespace

double Knobs::number(std::string_view name) const { return value_of<double>(values_, name, "number"); }

std::int64_t Knobs::whole(std::string_view name) const { return std::llround(number(name)); }

const std::string& Knobs::text(std::string_view name) const { return value_of<std::string>(values_, name, "name"); }

}  // namespace mileage
