// How long reading and analysing takes: a study of 4 variants x 12 counts x 8 blocks x 200 frames, with all intervals.
// Wanted: under 1 s. Prints every run. Exit code 1 when the median of the runs misses it.
#include <filesystem>
#include <vector>

#include <fmt/format.h>

#include "analysis/findings.h"
#include "analysis/statistics.h"
#include "measure/clock.h"
#include "study/study_file.h"
#include "support/made_studies.h"
#include "support/scratch.h"

namespace {

using namespace mileage;

made::Setting setting() {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 0.01 + 6e-5 * n; }},
                    {"records", [](double n) { return 0.01 + 5e-5 * n; }},
                    {"columns", [](double n) { return 0.01 + (n < 50'000 ? 1.5e-5 : 2.2e-5) * n; }},
                    {"jobs", [](double n) { return 0.05 + 1e-5 * n; }}};
  setting.counts = made::counts_between(100, 1'000'000, 12);
  setting.blocks = 8;
  setting.samples = 200;
  setting.block_noise = 0.03;
  setting.visit_noise = 0.03;
  setting.frame_noise = 0.05;
  return setting;
}

}  // namespace

int main() {
  const testing_support::ScratchFolder folder;
  const auto path = folder / "made.study.jsonl";
  {
    const Study study = made::study_of(setting());
    StudyWriter writer(path, study.head);
    for (const Visit& visit : study.visits) writer.append(visit);
  }
  SystemClock clock;
  std::vector<double> times;
  for (int run = 0; run < 7; ++run) {
    const std::int64_t start = clock.now_ns();
    const Study study = read_study(path);
    const std::int64_t read = clock.now_ns();
    const Findings findings = analyse(study, {});
    const std::int64_t end = clock.now_ns();
    times.push_back(static_cast<double>(end - start) * 1e-9);
    fmt::print("read {:.3f} s, analysed {:.3f} s: {} series, {} pairs\n", static_cast<double>(read - start) * 1e-9,
               static_cast<double>(end - read) * 1e-9, findings.series.size(), findings.pairs.size());
  }
  const double typical = median(times);
  fmt::print("median {:.3f} s for {:.1f} MB; wanted: under 1 s; {}\n", typical,
             static_cast<double>(std::filesystem::file_size(path)) * 1e-6, typical < 1 ? "holds" : "MISSED");
  return typical < 1 ? 0 : 1;
}
