#include "views/effort_view.h"

#include <numeric>
#include <set>
#include <string>

namespace mileage {

Table effort_table(const About& about, const std::vector<std::size_t>& series) {
  Table table(about, "effort", "Effort",
              {{"variant", "variant", Format::text, "variant"},
               {"lines", "lines", Format::whole, "lines of code"},
               {"effort", "requires", Format::text, "what it requires of the code around it"}});
  std::set<std::string> listed;
  for (const std::size_t one : series) {
    const std::string& variant = about.series[one].series.variant;
    const VariantFacts* facts = about.head.scenario.find(variant);
    if (facts == nullptr || (facts->effort.empty() && facts->lines == 0) || !listed.insert(variant).second) continue;
    table.row({variant, facts->lines > 0 ? Entry(facts->lines) : absent(), facts->effort});
  }
  return table;
}

Table effort_table(const About& about) {
  std::vector<std::size_t> all(about.series.size());
  std::iota(all.begin(), all.end(), std::size_t{0});
  return effort_table(about, all);
}

}  // namespace mileage
