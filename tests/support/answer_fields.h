#pragma once

#include <string>

namespace mileage::testing_support {

/// JSON fields as a Markdown table per verb: list, field, meaning.
std::string answer_fields();

}  // namespace mileage::testing_support
