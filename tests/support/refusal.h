#pragma once

#include <string>

#include "types/error.h"

namespace mileage::testing_support {

/// Message of the Error thrown, or "not refused".
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
