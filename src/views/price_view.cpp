#include "views/price_view.h"

#include <set>
#include <string>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

using Align = TextTable::Align;

/// What is known of a variant's price; nullptr where nothing is.
const VariantFacts* priced(const About& about, const std::string& variant) {
  const VariantFacts* facts = about.head.scenario.find(variant);
  return facts != nullptr && (!facts->asks.empty() || facts->lines > 0) ? facts : nullptr;
}

}  // namespace

TextTable price_table(const About& about, const std::vector<std::size_t>& series) {
  TextTable table;
  table.column("variant");
  table.column("lines", Align::right);
  table.column("asks of the programmer");
  std::set<std::string> told;
  for (const std::size_t one : series) {
    const std::string& variant = about.series[one].series.variant;
    const VariantFacts* facts = priced(about, variant);
    if (facts == nullptr || !told.insert(variant).second) continue;
    table.row({variant, facts->lines > 0 ? fmt::format("{}", facts->lines) : "", facts->asks});
  }
  return table;
}

std::string price_text(const About& about, const std::vector<std::size_t>& series) {
  const TextTable table = price_table(about, series);
  return table.empty() ? "" : "What each asks for (lines of code)\n\n" + table.text() + "\n";
}

void add_price_json(Json& json, const About& about) {
  Json& rows = rows_of(json, "prices");
  std::set<std::string> told;
  for (const NamedSeries& one : about.series) {
    const VariantFacts* facts = priced(about, one.series.variant);
    if (facts == nullptr || !told.insert(one.series.variant).second) continue;
    Json row = row_of(about);
    row["variant"] = facts->name;
    row["asks"] = facts->asks;
    row["lines"] = facts->lines > 0 ? Json(facts->lines) : Json(nullptr);
    rows.push_back(std::move(row));
  }
}

}  // namespace mileage
