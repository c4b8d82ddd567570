#include "study/visit_check.h"

#include "study/json_forms.h"

namespace mileage {

std::optional<Fault> fault_in(const Visit& visit) { return first_fault(visit); }

}  // namespace mileage
