#include "mileage/types/knobs.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include "types/error.h"

namespace mileage {

Knob Knob::real(std::string name, std::string meaning, double preset, double least, double most) {
  Knob knob;
  knob.name = std::move(name);
  knob.meaning = std::move(meaning);
  knob.preset = preset;
  knob.least = least;
  knob.most = most;
  return knob;
}

Knob Knob::integer(std::string name, std::string meaning, std::int64_t preset, std::int64_t least, std::int64_t most) {
  Knob knob = real(std::move(name), std::move(meaning), static_cast<double>(preset), static_cast<double>(least),
                   static_cast<double>(most));
  knob.whole = true;
  return knob;
}

Knob Knob::choice(std::string name, std::string meaning, std::vector<std::string> choices) {
  Knob knob;
  knob.name = std::move(name);
  knob.meaning = std::move(meaning);
  knob.preset = choices.empty() ? std::string() : choices.front();
  knob.choices = std::move(choices);
  return knob;
}

Knob Knob::touching(std::vector<std::string> variants) const {
  Knob copy = *this;
  copy.touches = std::move(variants);
  return copy;
}

Knob Knob::dividing() const {
  Knob copy = *this;
  copy.divides = true;
  return copy;
}

Knob Knob::in(std::string unit_name) const {
  Knob copy = *this;
  copy.unit = std::move(unit_name);
  return copy;
}

bool Knob::is_touching(std::string_view variant) const {
  return touches.empty() || std::find(touches.begin(), touches.end(), variant) != touches.end();
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
