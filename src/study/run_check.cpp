#include "study/run_check.h"

#include "study/json_forms.h"

namespace mileage {

std::optional<Fault> fault_in(const Run& run) { return first_fault(run); }

}  // namespace mileage
