// Do intervals hold the truth as often as they claim? Studies are simulated on machines with known truths and realistic
// noise, measured by the real loop (range finding, aiming, shuffled blocks, yardstick, repeats) on a virtual clock, and
// analysed like any other study. For every truth and kind of noise: the share of 95 % intervals of exponent, capacity
// and break-even that hold the truth, misses on either side, abstentions, median width, and the share of wrongly named
// laws. An interval of which one end lies beyond the counts measured answers too ("above 4,200"), and is counted apart.
// The same for what explains: whether the best value of a knob is among those that may be it, whether its plateau
// skips none that is as good, the serial share of time against workers, and what changes of a ladder bring. Of
// pairs that never cross: how many studies report a break-even.
//     bench_coverage [STUDIES [NOISE [TRUTH]]]
// 500 studies of each unless given: about an hour and a half on two cores. NOISE and TRUTH: only those whose name holds
// it. Wanted: 93 to 97 % in each group (figure x noise), at least 93 % where an interval keeps room for what may come
// (a knee beyond the counts measured) or a set is known; no cell of which the lower bound lies below 90 % (500 studies
// tell 93 % from 90; one that abstains always holds nothing), at most 2 % wrong laws, and at most 5 % break-evens where
// there is none. The capacity at a sharp knee inside the window of its reading is counted apart. So are costs that
// jump: the answer there may be the two counts around the jump, which hold it always. Figures that no count was aimed
// at (costs and shares between counts, capacities at other budgets) are judged by their groups alone: a bump between
// two counts shows in none of them. Exit code 1 when a bar is missed.
#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>
#include <cstdlib>
#include <string>
#include <vector>

#include <fmt/format.h>

#include "support/coverage.h"

namespace {

using namespace mileage;
using simulated::CellTally;
using simulated::Disturbance;
using simulated::figure_names;
using simulated::figures;
using simulated::Tally;
using simulated::Truth;

double median_percent(std::vector<double> widths) {
  if (widths.empty()) return 0;
  std::nth_element(widths.begin(), widths.begin() + static_cast<std::ptrdiff_t>(widths.size() / 2), widths.end());
  return 100 * std::expm1(widths[widths.size() / 2]);
}

/// Lower end of a 95 % interval for the share that a tally holds (Wilson 1927).
double lower_bound(const Tally& tally) {
  const double n = tally.answered;
  if (n == 0) return 0;
  const double p = tally.held / n;
  const double z = 1.96;
  return 100 * (p + z * z / (2 * n) - z * std::sqrt(p * (1 - p) / n + z * z / (4 * n * n))) / (1 + z * z / n);
}

void print(const std::string& name, const Tally& tally) {
  fmt::print(
      "    {:<34} {:5.1f} %  misses above {:4.1f} below {:4.1f} %  abstains {:4.1f} %  open-ended {:4.1f} %  width "
      "{:5.1f} %  ({} studies)\n",
      name, tally.share(), 100.0 * tally.above / std::max(1, tally.answered),
      100.0 * tally.below / std::max(1, tally.answered),
      100.0 * (tally.asked - tally.answered) / std::max(1, tally.asked),
      100.0 * tally.open_ended / std::max(1, tally.asked), median_percent(tally.widths), tally.asked);
}

/// Prints cells and groups, and counts the bars that are missed.
class Report {
 public:
  void take(const Truth& truth, const CellTally& cell) {
    for (std::size_t i = 0; i < figures; ++i)
      if (cell.figure[i].asked > 0) take_figure(truth, i, cell.figure[i]);
    wrong_laws_ += cell.laws_wrong;
    named_laws_ += cell.laws_named;
    if (cell.laws_wrong > 0)
      fmt::print("    {:<34} wrong law in {} of {}\n", truth.name, cell.laws_wrong, cell.laws_named);
    if (cell.never > 0) {
      fmt::print("    {:<34} never cross; a break-even is reported in {} of {} studies\n", truth.name, cell.told_anyway,
                 cell.never);
      missed_ += 100 * cell.told_anyway > 5 * cell.never;
    }
    std::fflush(stdout);
  }

  void close_groups(const Disturbance& noise) {
    for (std::size_t i = 0; i < figures; ++i) {
      if (groups_[i].asked == 0) continue;
      const bool keeps_room = simulated::is_a_set(i) || i == simulated::capacity_beyond;
      const bool holds = groups_[i].share() >= 93 && (keeps_room || groups_[i].share() <= 97);
      fmt::print("  group {} x {}: {:.1f} % of {} {}; wanted {}; {}\n", figure_names[i], noise.name, groups_[i].share(),
                 groups_[i].answered, simulated::is_a_set(i) ? "sets" : "intervals",
                 keeps_room ? "at least 93 %" : "93 to 97 %", holds ? "holds" : "MISSED");
      missed_ += !holds;
      groups_[i] = {};
    }
    if (jumps_.asked == 0) return;
    const bool holds = jumps_.share() >= 93;
    fmt::print("  all figures beside jumps x {}: {:.1f} % of {} intervals; wanted at least 93 %; {}\n", noise.name,
               jumps_.share(), jumps_.answered, holds ? "holds" : "MISSED");
    missed_ += !holds;
    jumps_ = {};
  }

  /// How many bars were missed in all.
  int close() {
    const double share = 100.0 * wrong_laws_ / std::max(1, named_laws_);
    fmt::print("wrong laws: {:.2f} % of {}; wanted: at most 2 %; {}\n", share, named_laws_,
               share <= 2 ? "holds" : "MISSED");
    return missed_ + (share > 2);
  }

 private:
  void take_figure(const Truth& truth, std::size_t figure, const Tally& tally) {
    const bool is_sharp = truth.sharp && figure == simulated::capacity_at_budget;
    if (!is_sharp && !truth.jumps) groups_[figure].add(tally);
    if (truth.jumps) jumps_.add(tally);
    print(fmt::format("{}, {}", truth.name, figure_names[figure]), tally);
    if (is_sharp || truth.jumps || !simulated::is_aimed_at(figure)) return;
    if (tally.answered == 0 || lower_bound(tally) >= 90) return;
    fmt::print("      MISSED: its lower bound is {:.1f} %\n", lower_bound(tally));
    ++missed_;
  }

  std::array<Tally, figures> groups_;
  Tally jumps_;
  int wrong_laws_ = 0;
  int named_laws_ = 0;
  int missed_ = 0;
};

/// Studies of what explains, for each of the others: they take little time, and a group of them rests on one cell.
constexpr int studies_that_explain = 6;

/// Truths of which the 99 % figure is read too: it rests on the frames, and little on the law.
bool has_tail_cell(const Truth& truth) {
  return truth.name == "linear" || truth.name == "power 1.3" || truth.name == "cache x1.25";
}

}  // namespace

int main(int argc, char** argv) {
  const int studies = argc > 1 ? std::atoi(argv[1]) : 500;
  const std::string wanted_noise = argc > 2 ? argv[2] : "";
  const std::string wanted_truth = argc > 3 ? argv[3] : "";
  const auto start = std::chrono::steady_clock::now();
  Report report;
  for (const Disturbance& noise : simulated::noises()) {
    if (noise.name.find(wanted_noise) == std::string::npos) continue;
    fmt::print("{}\n", noise.name);
    for (const Truth& truth : simulated::truths()) {
      if (truth.name.find(wanted_truth) == std::string::npos) continue;
      report.take(truth, simulated::run_cell(truth, noise, studies));
      if (has_tail_cell(truth)) report.take(truth, simulated::run_tail_cell(truth, noise, studies));
    }
    Truth knobs;
    knobs.name = "over knobs and changes";
    if (knobs.name.find(wanted_truth) != std::string::npos)
      report.take(knobs, simulated::run_explaining_cell(noise, studies_that_explain * studies));
    report.close_groups(noise);
  }
  const int missed = report.close();
  fmt::print("{:.0f} s\n", std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
  return missed == 0 ? 0 : 1;
}
