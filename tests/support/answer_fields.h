// The fields of every answer in JSON, from the descriptions of its columns.
#pragma once

#include <string>

namespace mileage::testing_support {

/// A Markdown table per verb: list, field, meaning.
std::string answer_fields();

}  // namespace mileage::testing_support
