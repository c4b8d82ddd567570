#include "mileage/festival/festival.h"
#include "mileage/tool/tool.h"

int main(int argc, char** argv) {
  mileage::Catalogue catalogue;
  mileage::add_festival(catalogue);
  return mileage::run_tool(argc, argv, catalogue);
}
