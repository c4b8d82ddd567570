// A tool whose catalogue throws when queried.
#include <stdexcept>

#include "mileage/tool/tool.h"

int main(int argc, char** argv) {
  mileage::Catalogue catalogue;
  mileage::Scenario odd;
  odd.name = "odd";
  catalogue.add(odd);
  catalogue.add_variant(
      "odd", {"plain", "", {}, ""}, [](const mileage::SetUp&) { return std::unique_ptr<mileage::Variant>(); },
      [](mileage::VariantFacts&) { throw std::runtime_error("the wick is wet"); });
  return mileage::run_tool(argc, argv, catalogue);
}
