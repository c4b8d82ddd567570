#include "views/views.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "views/known_report.h"

namespace mileage {
namespace {

TEST(PartsView, DevicesNameWhatEndsTheFrame) {
  const Report report = report_of(made::drawn_study(false));
  const Json rows = made::json_of(devices_view(report.about, report.parts))["devices"];
  ASSERT_FALSE(rows.empty());
  EXPECT_EQ(rows.front()["series"], "each");
  EXPECT_EQ(rows.front()["limited_by"], "processor");
  EXPECT_EQ(rows.back()["limited_by"], "device");
  EXPECT_EQ(rows.back()["measured_by"], "fence");
}

TEST(PartsView, ASoftwareDeviceSharesTheCores) {
  const Report report = report_of(made::drawn_study(true));
  const Json json = made::json_of(devices_view(report.about, report.parts));
  for (const Json& row : json["devices"]) EXPECT_EQ(row["limited_by"], "cores, which both share");
}

Json part_of(const Report& report, const std::string& part) {
  const Json json = made::json_of(parts_view(report.about, report.parts));
  for (const Json& row : json["parts"])
    if (row["part"] == part) return row;
  return nullptr;
}

TEST(PartsView, CountersAreGivenPerSecondToo) {
  const Report report = report_of(made::drawn_study(false));  // 200 lanterns: 0.2 ms, 8 calls per frame.
  const Json calls = part_of(report, "counter calls");
  EXPECT_NEAR(calls["per_second"].get<double>(), 40'000, 2'000);
  EXPECT_EQ(calls["amount"], 8);
  EXPECT_NEAR(calls["each"].get<double>(), 0.04, 1e-12);
}

TEST(PartsView, ShowsWhatADriverTookAtItsStart) {
  Report report = report_of(made::drawn_study(false));
  EXPECT_TRUE(part_of(report, "driver start").is_null());
  report.parts.series[0].cells.front().start_ms = 52.04;
  EXPECT_EQ(part_of(report, "driver start")["amount"], 52.04);
}

TEST(PartsView, PhasesAreSharesOfTheFrame) {
  const Report report = report_of(made::drawn_study(false));
  const Json phase = part_of(report, std::string("phase ") + wait_phase);
  EXPECT_NEAR(phase["share"].get<double>(), 0.2, 0.05);
  EXPECT_EQ(phase["unit"], "ms");
}

}  // namespace
}  // namespace mileage
