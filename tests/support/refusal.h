// What a call is refused for.
#pragma once

#include <string>

#include "types/error.h"

namespace mileage::testing_support {

/// The message of the Error that a call throws; "not refused" where it throws none.
template <class Call>
std::string refusal(Call call) {
  try {
    call();
  } catch (const Error& error) {
    return error.what();
  }
  return "not refused";
}

}  // namespace mileage::testing_support
