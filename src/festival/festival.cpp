#include "mileage/festival/festival.h"

#include "festival/scenarios.h"

namespace mileage {

void add_festival(Catalogue& catalogue) {
  festival::add_drift(catalogue);
  festival::add_jostle(catalogue);
  festival::add_jetty(catalogue);
  festival::add_wicks(catalogue);
  festival::add_moths(catalogue);
}

}  // namespace mileage
