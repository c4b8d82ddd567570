// Time and memory of reading and analysing: a usual study (4 variants x 12 counts x 8 blocks x 200 frames) and one of a
// million frames, wanted under 1 s and 5 times the file's size (large file only); imports of many variants, wanted
// under 6 times the time for 4 times the variants, and 5 s for 4,000. Exit code 1 on a miss, by the median.
#include <sys/wait.h>
#include <unistd.h>

#include <filesystem>
#include <sstream>
#include <vector>

#include <fmt/format.h>

#include "analysis/answers/next_recording.h"
#include "analysis/statistics/statistics.h"
#include "measure/machine/clock.h"
#include "measure/machine/process_facts.h"
#include "measure/recordings/recorded_study.h"
#include "study/frame_table.h"
#include "study/study_file.h"
#include "support/made_studies.h"
#include "support/scratch.h"
#include "support/reports.h"

namespace {

using namespace mileage;

made::Setting setting(int samples) {
  made::Setting setting;
  setting.truths = {{"objects", [](double n) { return 0.01 + 6e-5 * n; }},
                    {"records", [](double n) { return 0.01 + 5e-5 * n; }},
                    {"columns", [](double n) { return 0.01 + (n < 50'000 ? 1.5e-5 : 2.2e-5) * n; }},
                    {"jobs", [](double n) { return 0.05 + 1e-5 * n; }}};
  setting.counts = made::counts_between(100, 1'000'000, 12);
  setting.blocks = 8;
  setting.samples = samples;
  setting.block_noise = 0.03;
  setting.run_noise = 0.03;
  setting.frame_noise = 0.05;
  return setting;
}

/// Its memory is not this process's.
void write_study(const std::filesystem::path& path, int samples) {
  const pid_t child = ::fork();
  if (child == 0) {
    const Study study = made::study_of(setting(samples));
    StudyWriter writer(path, study.head);
    for (const Run& run : study.runs) writer.append(run);
    ::_exit(0);
  }
  ::waitpid(child, nullptr, 0);
}

double seconds_of_one_run(const std::filesystem::path& path) {
  SystemClock clock;
  const std::int64_t start = clock.now_ns();
  const Study study = read_study(path);
  const std::int64_t read = clock.now_ns();
  const Report report = report_of(study);
  const std::int64_t end = clock.now_ns();
  fmt::print("  read {:.3f} s, analysed {:.3f} s: {} series, {} pairs\n", static_cast<double>(read - start) * 1e-9,
             static_cast<double>(end - read) * 1e-9, report.about.series.size(), report.break_evens.pairs.size());
  return static_cast<double>(end - start) * 1e-9;
}

bool is_quick_and_small(const char* name, int samples, bool judge_memory) {
  const testing_support::ScratchFolder folder;
  const auto path = folder / "made.study.jsonl";
  write_study(path, samples);
  const double before_bytes = resident_bytes();
  fmt::print("{}\n", name);
  std::vector<double> times;
  for (int run = 0; run < 7; ++run) times.push_back(seconds_of_one_run(path));
  const double typical_s = median(times);
  const auto file_bytes = static_cast<double>(std::filesystem::file_size(path));
  const double times_file = (peak_resident_bytes() - before_bytes) / file_bytes;
  const bool holds = typical_s < 1 && (!judge_memory || times_file < 5);
  fmt::print("  median {:.3f} s, {:.1f} MB, memory {:.1f} times that; wanted: under 1 s{}; {}\n", typical_s,
             file_bytes * 1e-6, times_file, judge_memory ? ", under 5 times" : "", holds ? "holds" : "MISSED");
  return holds;
}

/// With the advice at the end.
double seconds_of_import(int variants) {
  std::string table = "variant,count,run,frame_ms\n";
  for (int variant = 0; variant < variants; ++variant)
    for (int count = 100; count <= 12'800; count *= 2)
      table += fmt::format("v{},{},1,{}\n", variant, count, count * 1e-3 * (1 + 1e-4 * variant));
  SystemClock clock;
  const std::int64_t start = clock.now_ns();
  std::istringstream stream(table);
  const AnalysedStudy analysed(study_of_recordings(read_frame_table(stream, "many.csv", {}), {}));
  const Analysis& analysis = analysed.analysis();
  next_recording(about(analysis), capacity_answer(analysis, {}), growth_answer(analysis, parts_answer(analysis)));
  return static_cast<double>(clock.now_ns() - start) * 1e-9;
}

bool import_grows_in_proportion() {
  std::vector<double> few, many;
  for (int run = 0; run < 3; ++run) {
    few.push_back(seconds_of_import(1000));
    many.push_back(seconds_of_import(4000));
  }
  const double ratio = median(many) / median(few);
  const bool holds = ratio < 6 && median(many) < 5;
  fmt::print(
      "import of 4,000 variants\n  median {:.2f} s, {:.2f} times that of 1,000; wanted: under 5 s, under 6 times; {}\n",
      median(many), ratio, holds ? "holds" : "MISSED");
  return holds;
}

}  // namespace

int main() {
  const bool usual = is_quick_and_small("4 variants x 12 counts x 8 blocks x 200 frames", 200, false);
  const bool large = is_quick_and_small("1,000,000 frames", 2605, true);
  const bool many = import_grows_in_proportion();
  return usual && large && many ? 0 : 1;
}
