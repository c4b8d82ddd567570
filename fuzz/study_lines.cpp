// What reads is written back equal, and the analysis answers or refuses.
#include <nlohmann/json.hpp>

#include "analysis/analysed_study.h"
#include "analysis/answers/report.h"
#include "fuzz_target.h"
#include "study/exported_table.h"
#include "study/study_file.h"
#include "study/study_json.h"
#include "types/error.h"

namespace {

using namespace mileage;

std::string written(const Study& study) {
  std::string text = to_line(to_json(study.head)) + "\n";
  for (const Run& run : study.runs) text += to_line(to_json(run)) + "\n";
  return text;
}

}  // namespace

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  try {
    const Study study = parse_study(fuzz::text_of(data, size), "x.study.jsonl");
    const std::string text = written(study);
    fuzz::must(written(parse_study(text, "x.study.jsonl")) == text, "a study that was read is written as it was");
    exported_table(study);
    if (study.runs.size() < 30 && study.head.plan.series.size() < 6) report_of(AnalysedStudy(study).analysis(), {});
  } catch (const Error&) {}
  return 0;
}
