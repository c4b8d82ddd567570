// Recorded readings: test machines seldom have counters.
#include "measure/machine/hardware_meter.h"

#include <fcntl.h>
#include <linux/perf_event.h>

#include <array>
#include <fstream>

#include <gtest/gtest.h>

#include "support/scratch.h"

namespace mileage {
namespace {

using testing_support::ScratchFolder;
using testing_support::write_text;

/// Count, time wanted, time run.
using Readings = std::vector<std::array<std::uint64_t, 3>>;

class RecordedMachine {
 public:
  void event(std::uint64_t number, const Readings& readings) {
    std::ofstream file(folder_ / std::to_string(number), std::ios::binary);
    for (const auto& words : readings) file.write(reinterpret_cast<const char*>(words.data()), sizeof words);
  }
  void zone(const std::string& folder, const std::string& name, const std::string& microjoules,
            const std::string& range) {
    std::filesystem::create_directories(folder_ / "energy" / folder);
    write_text(folder_ / "energy" / folder / "name", name + "\n");
    write_text(folder_ / "energy" / folder / "energy_uj", microjoules + "\n");
    write_text(folder_ / "energy" / folder / "max_energy_range_uj", range + "\n");
  }
  HardwareSources sources() const {
    return {[this](std::uint64_t number) { return ::open((folder_ / std::to_string(number)).c_str(), O_RDONLY); },
            folder_ / "energy"};
  }

 private:
  ScratchFolder folder_;
};

TEST(HardwareMeter, CountsWhatPassedBetweenTwoReadings) {
  RecordedMachine machine;
  machine.event(PERF_COUNT_HW_CPU_CYCLES, {{1'000'000, 500, 500}, {4'600'000, 1'500, 1'500}});
  machine.event(PERF_COUNT_HW_INSTRUCTIONS, {{9'000'000, 500, 500}, {16'200'000, 1'500, 1'500}});
  HardwareMeter meter(machine.sources());
  ASSERT_TRUE(meter.is_there());
  meter.begin();
  const auto counts = meter.since_begin();
  EXPECT_EQ(counts.size(), 2U) << "what the machine does not count is skipped";
  EXPECT_DOUBLE_EQ(counts.at("cycles"), 3'600'000);
  EXPECT_DOUBLE_EQ(counts.at("instructions"), 7'200'000);
}

TEST(HardwareMeter, ScalesAnEventThatSharedItsCounter) {
  RecordedMachine machine;
  machine.event(PERF_COUNT_HW_CACHE_MISSES, {{100, 1'000, 1'000}, {400, 5'000, 2'000}});
  machine.event(PERF_COUNT_HW_BRANCH_MISSES, {{0, 1'000, 0}, {0, 5'000, 0}});
  HardwareMeter meter(machine.sources());
  meter.begin();
  const auto counts = meter.since_begin();
  EXPECT_DOUBLE_EQ(counts.at("cache misses"), 1'200) << "it ran for a quarter of the time";
  EXPECT_EQ(counts.count("branch misses"), 0U) << "it never ran";
}

TEST(HardwareMeter, EnergyIsOfAllPackagesAndGoesOnPastItsRange) {
  RecordedMachine machine;
  machine.zone("zone:0", "package-0", "262143000000", "262143328850");
  machine.zone("zone:1", "package-1", "1000000", "262143328850");
  machine.zone("zone:0:0", "core", "5000000", "262143328850");
  HardwareMeter meter(machine.sources());
  meter.begin();
  machine.zone("zone:0", "package-0", "171150", "262143328850");
  machine.zone("zone:1", "package-1", "1750000", "262143328850");
  machine.zone("zone:0:0", "core", "9000000", "262143328850");
  EXPECT_NEAR(meter.since_begin().at("joules"), 0.5 + 0.75, 1e-6) << "cores are part of their package";
}

TEST(HardwareMeter, IsNotThereWhereTheKernelTellsNothing) {
  HardwareMeter meter({[](std::uint64_t) { return -1; }, "/nowhere/at/all"});
  EXPECT_FALSE(meter.is_there());
  meter.begin();
  EXPECT_TRUE(meter.since_begin().empty());
}

TEST(HardwareMeter, MachineSourcesOpenOrSayThatTheyDoNot) {
  HardwareMeter meter(machine_sources());
  meter.begin();
  volatile double sum = 0;
  for (int i = 0; i < 1'000'000; ++i) sum = sum + i;
  for (const auto& [name, count] : meter.since_begin()) EXPECT_GE(count, 0) << name;
}

}  // namespace
}  // namespace mileage
