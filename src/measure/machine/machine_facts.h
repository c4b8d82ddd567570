#pragma once

#include "study/study.h"

namespace mileage {

/// Processor, cores, caches, memory, kernel; unknown ones stay empty. Nothing names the machine or its user.
Machine machine_facts();

}  // namespace mileage
