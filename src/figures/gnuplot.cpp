#include "figures/gnuplot.h"

#include <cstring>
#include <filesystem>
#include <sstream>
#include <string_view>

#include <fmt/format.h>

#include "system/child_process.h"
#include "system/files.h"
#include "types/error.h"
#include "types/text.h"
#include "figures/look.h"

namespace mileage {
namespace {

[[noreturn]] void refuse(const std::string& problem) {
  throw Error({.kind = FaultKind::cannot_write, .field = "figure", .problem = problem});
}

/// Usually a second or two.
constexpr double limit_s = 60;
constexpr double max_bytes = 2e9;

/// Without the script's echo.
std::string complaint(const std::string& errors) {
  std::istringstream lines(errors);
  std::string last;
  for (std::string line; std::getline(lines, line);)
    if (line.find_first_not_of(" \t^") != std::string::npos) last = line;
  return last;
}

/// Escapes what gnuplot leaves unescaped.
std::string well_formed(std::string svg) {
  const std::string_view end_of_section = "]]>";
  if (svg.rfind("<?xml", 0) != 0) return svg;
  for (auto at = svg.find(end_of_section); at != std::string::npos; at = svg.find(end_of_section, at))
    svg.replace(at, end_of_section.size(), "]]&gt;");
  return svg;
}

}  // namespace

std::string run_gnuplot(const std::string& script) {
  const TemporaryFolder folder;
  const std::filesystem::path file = folder.path() / "figure.gp";
  write_whole_file(file, script, IfThere::replace);
  Command command;
  command.words = {"gnuplot", file.string()};
  const Limits limits{limit_s, max_bytes};
  const ChildReport report = run_child(command, limits, {});
  if (report.is_well()) return well_formed(report.output);
  if (report.ending == ChildEnding::exited) refuse("gnuplot reports: " + complaint(report.errors));
  refuse("gnuplot, which draws the figures, " + (report.ending == ChildEnding::not_started
                                                     ? "cannot be started: " + std::string(std::strerror(report.code))
                                                     : worded(report, limits)));
}

std::string gnuplot_text(const std::string& text) {
  std::string quoted = "\"";
  for (const char c : printable_line(text)) {
    if (c == '"' || c == '\\' || c == '`') quoted += '\\';
    quoted += c;
  }
  return quoted + "\"";
}

std::string gnuplot_terminal(FigureFormat format, int height, int width) {
  const std::string axes = fmt::format(
      "set encoding utf8\nset border 3 lc rgb '{0}' lw 1\nset tics nomirror out scale 0.6 textcolor rgb '{0}'\n",
      look::ink);
  if (format == FigureFormat::svg)
    return fmt::format(
               "set terminal svg noenhanced size {},{} dynamic background '{}' font 'DejaVu Sans,15'\nscale = 0.6\n",
               width, height, look::paper) +
           axes;
  return fmt::format("set terminal pngcairo noenhanced size {},{} background '{}' font 'DejaVu Sans,12'\nscale = 1\n",
                     width, height, look::paper) +
         axes;
}

}  // namespace mileage
