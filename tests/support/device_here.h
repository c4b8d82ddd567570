// Skips tests without a graphics device.
#pragma once

#include <string>

#include <gtest/gtest.h>

#include "device/context.h"
#include "types/error.h"

namespace mileage::testing_support {

inline std::string why_no_device() {
  try {
    const device::Context context;
    return "";
  } catch (const Error& error) {
    return error.what();
  }
}

}  // namespace mileage::testing_support

#define SKIP_WITHOUT_DEVICE() \
  if (const std::string why = mileage::testing_support::why_no_device(); !why.empty()) GTEST_SKIP() << why
