#include "guards/guards.h"

#include <algorithm>
#include <map>
#include <regex>

#include "support/scratch.h"

namespace mileage::guards {
namespace {

namespace fs = std::filesystem;
using testing_support::read_text;

bool is_built_or_hidden(const fs::path& relative) {
  for (const fs::path& part : relative)
    if (part.string().rfind("build", 0) == 0 || part.string().rfind('.', 0) == 0) return true;
  return false;
}

std::vector<fs::path> files_below(const fs::path& root, const std::vector<std::string>& endings) {
  std::vector<fs::path> files;
  if (!fs::exists(root)) return files;
  for (const auto& entry : fs::recursive_directory_iterator(root))
    if (entry.is_regular_file() && !is_built_or_hidden(fs::relative(entry.path(), root)) &&
        std::find(endings.begin(), endings.end(), entry.path().extension()) != endings.end())
      files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  return files;
}

/// All matches of the first group of a pattern, with the text around them left out.
Lines matches(const std::string& text, const std::string& pattern) {
  Lines found;
  const std::regex expression(pattern);
  for (std::sregex_iterator at(text.begin(), text.end(), expression), end; at != end; ++at) found.push_back((*at)[1]);
  return found;
}

/// What each layer may include besides itself.
const std::map<std::string, std::vector<std::string>> lower_layers{
    {"types", {}},
    {"system", {"types"}},
    {"study", {"types", "system"}},
    {"analysis", {"types", "study"}},
    {"measure", {"types", "system", "study", "analysis"}},
    {"festival", {"types"}},
    {"device", {"types", "festival"}},
    {"views", {"types", "system", "study", "analysis"}},
    {"tool", {"types", "system", "study", "analysis", "measure", "views"}},
    {"program", {"festival", "device", "tool"}}};

std::string layer_of_include(std::string include) {
  if (include.rfind("mileage/", 0) == 0) include.erase(0, 8);
  return include.substr(0, include.find('/'));
}

void check_includes(const fs::path& file, const std::string& layer, const fs::path& root, Lines& violations) {
  const auto& allowed = lower_layers.at(layer);
  for (const std::string& include : matches(read_text(file), "#include \"([^\"]+)\"")) {
    const std::string other = layer_of_include(include);
    if (other == layer || std::find(allowed.begin(), allowed.end(), other) != allowed.end()) continue;
    violations.push_back(fs::relative(file, root).string() + " includes " + include);
  }
}

/// A header beside the layers is one that people copy into code that knows nothing of Mileage.
bool stands_alone(const fs::path& file) { return file.parent_path().filename() == "mileage" && file.extension() == ".h"; }

}  // namespace

Lines upward_includes(const fs::path& root) {
  Lines violations;
  for (const fs::path& top : {root / "src", root / "include" / "mileage"})
    for (const fs::path& file : files_below(top, {".h", ".cpp"})) {
      const std::string layer = fs::relative(file, top).begin()->string();
      if (stands_alone(file)) {
        for (const std::string& include : matches(read_text(file), "#include \"([^\"]+)\"")) violations.push_back(fs::relative(file, root).string() + " includes " + include);
        continue;
      }
      if (lower_layers.count(layer) == 0)
        violations.push_back(fs::relative(file, root).string() + " lies in no layer");
      else
        check_includes(file, layer, root, violations);
    }
  return violations;
}

Lines unfit_public_headers(const fs::path& root) {
  Lines violations;
  for (const fs::path& file : files_below(root / "include", {".h"})) {
    const std::string text = std::regex_replace(read_text(file), std::regex("//[^\n]*|/\\*[^*]*\\*+(?:[^/*][^*]*\\*+)*/"), "");
    for (const std::string& include : matches(text, "#include <([^>]+)>"))
      if (!stands_alone(file) && (include.find('/') != std::string::npos || include.find(".h") != std::string::npos))
        violations.push_back(fs::relative(file, root).string() + " includes " + include);
    for (const std::string& word : matches(text, "\\b(throw|try|catch|typeid|dynamic_cast)\\b"))
      violations.push_back(fs::relative(file, root).string() + " uses " + word);
  }
  return violations;
}

Lines unregistered_tests(const fs::path& root) {
  std::string registered;
  for (const fs::path& file : files_below(root / "tests", {".txt", ".cmake"})) registered += read_text(file);
  Lines violations;
  for (const fs::path& file : files_below(root / "tests", {".cpp"})) {
    const std::string name = fs::relative(file, root / "tests").string();
    if (registered.find(name) == std::string::npos) violations.push_back(name + " is in no CMakeLists.txt");
  }
  return violations;
}

Lines dead_links(const fs::path& root) {
  Lines violations;
  for (const fs::path& file : files_below(root, {".md"}))
    for (std::string link : matches(read_text(file), "\\]\\(([^)\\s]+)\\)")) {
      link = link.substr(0, link.find('#'));
      if (link.empty() || link.rfind("http", 0) == 0) continue;
      if (!fs::exists(file.parent_path() / link)) violations.push_back(fs::relative(file, root).string() + " links to " + link);
    }
  return violations;
}

Lines stale_snippets(const fs::path& root) {
  Lines violations;
  const std::regex snippet("<!-- from ([^ ]+) -->\\s*```[a-z+]*\n([\\s\\S]*?)```");
  for (const fs::path& file : files_below(root, {".md"})) {
    const std::string text = read_text(file);
    for (std::sregex_iterator at(text.begin(), text.end(), snippet), end; at != end; ++at)
      if (read_text(root / (*at)[1].str()).find((*at)[2].str()) == std::string::npos)
        violations.push_back(fs::relative(file, root).string() + " shows a piece that is not in " + (*at)[1].str());
  }
  return violations;
}

Lines unknown_verbs(const fs::path& root, const std::vector<std::string>& verbs) {
  Lines violations;
  for (const fs::path& file : files_below(root, {".md"}))
    for (const std::string& verb : matches(read_text(file), "(?:^|[^A-Za-z_:-])mileage +([a-z]+)"))
      if (std::find(verbs.begin(), verbs.end(), verb) == verbs.end())
        violations.push_back(fs::relative(file, root).string() + " names the verb " + verb);
  return violations;
}

}  // namespace mileage::guards
