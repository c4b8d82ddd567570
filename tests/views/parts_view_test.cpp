#include "views/parts_view.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include "views/growth_view.h"
#include "views/known_report.h"

namespace mileage {
namespace {

TEST(PartsView, NameWhatRunsOutFirstPerCount) {
  const Report report = report_of(made::drawn_study(false));
  const TextTable table = device_table(report.about, report.parts);
  ASSERT_EQ(table.rows().size(), 4U);  // two stretches for each variant
  EXPECT_EQ(table.rows()[0].front(), "each");
  EXPECT_EQ(table.rows()[0].back(), "the processor");
  EXPECT_EQ(table.rows()[1].back(), "the device");
  EXPECT_EQ(table.rows()[1][5], "waiting for it");
  Json json;
  add_devices_json(json, report.about, report.parts);
  EXPECT_EQ(json["devices"].back()["runs_out_first"], "device");
}

TEST(PartsView, ASoftwareDeviceRunsOutOfTheSharedCores) {
  const Report report = report_of(made::drawn_study(true));
  const TextTable table = device_table(report.about, report.parts);
  ASSERT_EQ(table.rows().size(), 2U);
  EXPECT_EQ(table.rows()[0].back(), "the cores, which both share");
}

TEST(PartsView, CountersAreGivenPerSecondToo) {
  const Report report = report_of(made::drawn_study(false));
  const CellDetail& cell = report.parts.series[0].cells.front();  // 200 lanterns: 0.2 ms, 8 calls a frame
  EXPECT_NEAR(cell.per_second(cell.counters.at("calls")), 40'000, 2'000);
  Json json;
  add_growth_json(json, report.about, report.growth);
  add_parts_json(json, report.parts, report.about.axis);
  EXPECT_NEAR(json["curves"][0]["parts"][0]["counters_per_second"]["calls"].get<double>(), 40'000, 2'000);
}

TEST(PartsView, TellsWhatADriverTookAtItsStart) {
  Report report = report_of(made::drawn_study(false));
  SeriesParts& parts = report.parts.series[0];
  const auto told = [&] {
    const TextTable table = parts_table(report.about, parts);
    for (const auto& row : table.rows())
      if (row[1].find("starting the driver") != std::string::npos) return row[1];
    return std::string();
  };
  EXPECT_EQ(told(), "");
  parts.cells.front().start_ms = 52.04;
  parts.cells.front().start_bytes = 52.0 * 1024 * 1024;
  EXPECT_EQ(told(), "starting the driver, before the world: 52.0 ms, 52.0 MiB");
}

}  // namespace
}  // namespace mileage
