#if MILEAGE_HAS_DEVICE
#include "mileage/device/device.h"
#endif
#include "mileage/festival/festival.h"
#include "mileage/tool/tool.h"

int main(int argc, char** argv) {
  mileage::Catalogue catalogue;
  mileage::add_festival(catalogue);
#if MILEAGE_HAS_DEVICE
  mileage::add_device(catalogue);
#endif
  return mileage::run_tool(argc, argv, catalogue);
}
