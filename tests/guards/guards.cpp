#include "guards/guards.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <map>
#include <regex>
#include <sstream>

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

/// First groups of all matches.
Lines matches(const std::string& text, const std::string& pattern) {
  Lines found;
  const std::regex expression(pattern);
  for (std::sregex_iterator at(text.begin(), text.end(), expression), end; at != end; ++at) found.push_back((*at)[1]);
  return found;
}

/// Layers that each may include.
const std::map<std::string, std::vector<std::string>> lower_layers{
    {"types", {}},
    {"system", {"types"}},
    {"study", {"types", "system"}},
    {"analysis", {"types", "study"}},
    {"measure", {"types", "system", "study", "analysis"}},
    {"festival", {"types"}},
    {"device", {"types", "festival"}},
    {"views", {"types", "system", "study", "analysis"}},
    {"figures", {"types", "system", "study", "analysis", "views"}},
    {"tool", {"types", "system", "study", "analysis", "measure", "views", "figures"}},
    {"program", {"festival", "device", "tool"}}};

/// Folders of a layer, lowest first; each may include those before. Files outside of folders are on top and included by
/// the last at most.
const std::map<std::string, std::vector<std::string>> rooms_of{
    {"analysis", {"statistics", "evidence", "model", "curves", "answers"}},
    {"measure", {"machine", "in_process", "recordings", "runners", "loop"}}};

std::vector<std::string> parts_of(std::string path) {
  if (path.rfind("mileage/", 0) == 0) path.erase(0, 8);
  std::vector<std::string> parts;
  for (const fs::path& part : fs::path(path)) parts.push_back(part.string());
  return parts;
}

/// Files outside of folders come last.
std::size_t room_in(const std::vector<std::string>& rooms, const std::string& room) {
  return static_cast<std::size_t>(std::find(rooms.begin(), rooms.end(), room) - rooms.begin());
}

bool goes_up_in_layer(const std::string& layer, const std::vector<std::string>& from,
                      const std::vector<std::string>& to) {
  const auto rooms = rooms_of.find(layer);
  if (rooms == rooms_of.end()) return false;
  const std::size_t last = rooms->second.size() - 1;
  const std::size_t own = room_in(rooms->second, from[1]);
  const std::size_t other = room_in(rooms->second, to[1]);
  return other > own && !(own == last && other > last);
}

void check_includes(const fs::path& file, const fs::path& top, const fs::path& root, Lines& violations) {
  const std::vector<std::string> own = parts_of(fs::relative(file, top).string());
  const auto& allowed = lower_layers.at(own[0]);
  for (const std::string& include : matches(read_text(file), "#include \"([^\"]+)\"")) {
    const std::vector<std::string> other = parts_of(include);
    const bool is_public = include.rfind("mileage/", 0) == 0;  // Outside of folders.
    const bool is_fine = other[0] == own[0] ? is_public || !goes_up_in_layer(own[0], own, other)
                                            : std::find(allowed.begin(), allowed.end(), other[0]) != allowed.end();
    if (!is_fine) violations.push_back(fs::relative(file, root).string() + " includes " + include);
  }
}

/// Headers that people copy have no dependencies.
bool stands_alone(const fs::path& file) {
  return file.parent_path().filename() == "mileage" && file.extension() == ".h";
}

}  // namespace

Lines upward_includes(const fs::path& root) {
  Lines violations;
  for (const fs::path& top : {root / "src", root / "include" / "mileage"})
    for (const fs::path& file : files_below(top, {".h", ".cpp"})) {
      const std::string layer = fs::relative(file, top).begin()->string();
      if (stands_alone(file)) {
        for (const std::string& include : matches(read_text(file), "#include \"([^\"]+)\""))
          violations.push_back(fs::relative(file, root).string() + " includes " + include);
        continue;
      }
      if (lower_layers.count(layer) == 0)
        violations.push_back(fs::relative(file, root).string() + " lies in no layer");
      else
        check_includes(file, top, root, violations);
    }
  return violations;
}

Lines unfit_public_headers(const fs::path& root) {
  Lines violations;
  for (const fs::path& file : files_below(root / "include", {".h"})) {
    const std::string text =
        std::regex_replace(read_text(file), std::regex("//[^\n]*|/\\*[^*]*\\*+(?:[^/*][^*]*\\*+)*/"), "");
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

namespace {

constexpr std::array phrases_replaced{"told apart",
                                      "cannot tell",
                                      "cannot be told",
                                      "worth it",
                                      "fast level",
                                      "all along",
                                      "dearer",
                                      "cheaper",
                                      "as far as measured",
                                      "brought to",
                                      "beyond the measured range",
                                      "held against",
                                      "anew",
                                      "meanwhile",
                                      "whoever",
                                      "no choice is told"};

bool holds_words(const std::string& text, const std::string& words) {
  const auto is_letter = [&](std::size_t at) {
    return at < text.size() && std::isalnum(static_cast<unsigned char>(text[at])) != 0;
  };
  for (auto at = text.find(words); at != std::string::npos; at = text.find(words, at + 1))
    if (!(at > 0 && is_letter(at - 1)) && !is_letter(at + words.size())) return true;
  return false;
}

}  // namespace

Lines replaced_phrases(const fs::path& root) {
  Lines violations;
  const auto check = [&](const fs::path& file) {
    std::istringstream lines(read_text(file));
    for (std::string line; std::getline(lines, line);)
      for (const char* phrase : phrases_replaced)
        if (holds_words(line, phrase))
          violations.push_back(fs::relative(file, root).string() + " says \"" + phrase + "\"");
  };
  for (const fs::path& file : files_below(root, {".md"})) check(file);
  for (const char* top : {"src", "include", "tests", "bench", "examples"})
    for (const fs::path& file : files_below(root / top, {".h", ".cpp"}))
      if (file.parent_path().filename() != "guards") check(file);
  return violations;
}

Lines dead_links(const fs::path& root) {
  Lines violations;
  for (const fs::path& file : files_below(root, {".md"}))
    for (std::string link : matches(read_text(file), "\\]\\(([^)\\s]+)\\)")) {
      link = link.substr(0, link.find('#'));
      if (link.empty() || link.rfind("http", 0) == 0) continue;
      if (!fs::exists(file.parent_path() / link))
        violations.push_back(fs::relative(file, root).string() + " links to " + link);
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

namespace {

/// Code points.
std::size_t columns_of(const std::string& line) {
  return static_cast<std::size_t>(
      std::count_if(line.begin(), line.end(), [](char c) { return (static_cast<unsigned char>(c) & 0xc0) != 0x80; }));
}

/// Tables, commands and test texts cannot be broken.
bool may_be_long(const fs::path& file, const std::string& line) {
  if (file.extension() == ".md")
    return line.rfind("|", 0) == 0 || line.rfind("    ", 0) == 0 || line.rfind("run = ", 0) == 0 ||
           (line.rfind("  ", 0) == 0 && line.find("  ", 3) != std::string::npos) || line.rfind("  mileage ", 0) == 0;
  return line.find("R\"") != std::string::npos;
}

}  // namespace

Lines long_lines(const fs::path& root) {
  Lines violations;
  for (const fs::path& file : files_below(root, {".cpp", ".h", ".c", ".md", ".txt", ".cmake", ".sh"})) {
    std::istringstream text(read_text(file));
    int number = 0;
    for (std::string line; std::getline(text, line);)
      if (++number > 0 && columns_of(line) > max_columns && !may_be_long(file, line))
        violations.push_back(fs::relative(file, root).string() + ":" + std::to_string(number));
  }
  return violations;
}

namespace {

/// Tests may belong to a header or several sources.
bool has_test(const fs::path& root, const fs::path& source) {
  const fs::path relative = fs::relative(source, root / "src");
  return fs::exists(root / "tests" / relative.parent_path() / (relative.stem().string() + "_test.cpp"));
}

}  // namespace

Lines untested_sources(const fs::path& root) {
  Lines violations;
  for (const char* layer : {"types", "system", "study", "analysis", "measure"})
    for (const fs::path& file : files_below(root / "src" / layer, {".cpp"}))
      if (!has_test(root, file)) violations.push_back(fs::relative(file, root).string());
  return violations;
}

Lines scattered_constants(const fs::path& root) {
  static const std::regex constant("^ *(inline )?(static )?constexpr (double|int|std::size_t) (\\w+) *[={].*");
  Lines violations;
  for (const fs::path& file : files_below(root / "src" / "analysis", {".cpp", ".h"})) {
    if (file.filename() == "constants.h" || file.filename() == "priors.h") continue;
    std::istringstream text(read_text(file));
    std::smatch found;
    for (std::string line; std::getline(text, line);)
      if (std::regex_match(line, found, constant))
        violations.push_back(fs::relative(file, root).string() + " has " + found[4].str());
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
