#include <filesystem>
#include <memory>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "analysis/answers/report.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/output.h"
#include "tool/report_files.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "figures/figures.h"
#include "figures/page.h"
#include "views/report_view.h"

namespace mileage {
namespace {

struct ReportOptions : AnswerOptions {
  std::string page;
  std::string figure;
};

/// "night.study.jsonl" becomes "night.html".
std::string page_name(const std::string& study) {
  std::string name = std::filesystem::path(study).filename().string();
  for (const char* ending : {".jsonl", ".study"})
    if (name.size() > std::string(ending).size() && name.rfind(ending) == name.size() - std::string(ending).size())
      name.erase(name.rfind(ending));
  return name + ".html";
}

int report(const ReportOptions& options) {
  const auto rest = rest_of_frame(options);
  std::vector<Report> studies;
  for (const AskedStudy& one : analyse_studies(options)) {
    studies.push_back(report_of(one.analysis(), one.questions));
    if (rest != nullptr)
      studies.back().next_to_rest =
          shared_frame_answer(one.analysis(), rest->analysed.analysis(), rest->asked, one.questions);
    studies.back().about.is_one_of_several = one.about.is_one_of_several;
  }
  if (studies.size() > 1 && (!options.page.empty() || !options.figure.empty()))
    throw Error({.kind = FaultKind::usage,
                 .field = "-o",
                 .problem = "one name for several studies",
                 .accepted = "one study with -o or --figure; without them each study gets a page of its own name"});
  const bool page_wanted = !options.page.empty() || (options.figure.empty() && !options.json);
  for (std::size_t i = 0; i < studies.size(); ++i) {
    const std::string page = options.page.empty() ? page_name(options.studies[i]) : options.page;
    if (page_wanted) write_page(page, studies[i]);
    if (!options.figure.empty()) write_figure(options.figure, studies[i]);
    if (options.json) continue;
    if (page_wanted) print(fmt::format("page: {}\n", page));
    if (!options.figure.empty()) print(fmt::format("figure: {}\n", options.figure));
  }
  if (options.json) print(report_json(studies));
  return exit_answered;
}

}  // namespace

FigureFormat figure_format(const std::filesystem::path& path) {
  const std::string ending = path.extension().string();
  if (ending != ".png" && ending != ".svg")
    throw Error({.kind = FaultKind::usage,
                 .field = "figure",
                 .problem = "the ending says which format",
                 .found = path.string(),
                 .accepted = "a name that ends in .png or .svg"});
  return ending == ".png" ? FigureFormat::png : FigureFormat::svg;
}

void write_page(const std::filesystem::path& path, const Report& report) {
  write_file(path, report_page(report, page_figures(report)));
}

void write_figure(const std::filesystem::path& path, const Report& report) {
  write_file(path, cost_figure(report, figure_format(path)));
}

void add_report_verb(CommandLine& line) {
  auto options = std::make_shared<ReportOptions>();
  Verb verb = line.add_verb("report", "One self-contained HTML page with all answers, or a single figure",
                            "  mileage report demo/drift.study.jsonl -o drift.html\n"
                            "  mileage report demo/drift.study.jsonl --figure cost.png\n"
                            "  mileage report drift.study.jsonl --rest show.study.jsonl --rest-at 5k\n",
                            [options] { return report(*options); });
  add_studies(verb, *options);
  verb.option("-o,--output", options->page, "the page to write (default: the study's name with .html)");
  verb.option("--figure", options->figure, "write the cost figure, as .png or .svg; without -o, only that");
  add_budgets(verb, *options);
  add_rest(verb, *options);
  add_min_saving(verb, *options);
  add_at(verb, *options, "counts to show costs at");
  add_selection(verb, *options);
  verb.comes_back("  page: drift.html\n");
  add_json(verb, options->json);
}

}  // namespace mileage
