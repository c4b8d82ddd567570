#include "support/made_docs.h"

#include <stdexcept>

#include <nlohmann/json.hpp>

#include "study/study_schema.h"
#include "study/table_columns.h"
#include "support/answer_fields.h"
#include "support/scratch.h"
#include "views/terminal.h"

namespace mileage::testing_support {
namespace {

constexpr std::size_t line_width = 120;

const std::map<std::string, std::string (*)()> parts{{"run", run_fields_list},         {"series", series_fields_list},
                                                     {"head", head_fields_list},       {"plan", plan_fields_list},
                                                     {"machine", machine_fields_list}, {"columns", table_columns_list},
                                                     {"answers", answer_fields}};

std::string with_parts(std::string text) {
  const std::string begin = "<!-- made: ";
  for (auto at = text.find(begin); at != std::string::npos; at = text.find(begin, at + 1)) {
    const auto name_at = at + begin.size();
    const std::string name = text.substr(name_at, text.find(' ', name_at) - name_at);
    const auto from = text.find('\n', at) + 1;
    const auto to = text.find("<!-- end -->", from);
    if (to == std::string::npos || parts.count(name) == 0) throw std::runtime_error("no part to make: " + name);
    text.replace(from, to - from, shown_on({line_width}, parts.at(name)()));
  }
  return text;
}

}  // namespace

std::map<std::string, std::string> made_docs(const std::filesystem::path& docs) {
  std::map<std::string, std::string> made{{"reference/study.schema.json", to_text(study_schema())}};
  for (const char* file : {"reference/study-file.md", "reference/verbs.md", "reference/answers.md"})
    made[file] = with_parts(read_text(docs / file));
  return made;
}

}  // namespace mileage::testing_support
