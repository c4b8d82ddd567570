// What this machine is, as far as it matters for times.
#pragma once

#include "study/study.h"

namespace mileage {

/// Reads processor, cores, caches, memory and kernel from the system. What the system does not tell stays empty.
/// Nothing in it names the machine or its user.
Machine machine_facts();

}  // namespace mileage
