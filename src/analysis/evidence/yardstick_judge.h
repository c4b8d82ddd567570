// Which visits were made at the speed that the machine holds in a study. Judged by what is read beside a visit alone,
// never by its frame times: choosing by frames would be choosing results.
#pragma once

#include <optional>
#include <vector>

#include "study/study.h"

namespace mileage {

/// The reading of a visit is the slower of its two arithmetic times. The level of a study is the fastest speed that the
/// machine shows in a third of the readings of its blocks (before there are enough of them, of all readings). A visit
/// is condemned when its reading is 1.34 times off that level: above it the machine was disturbed; below it, it ran at
/// a speed that the rest of the study does not have. By simulation anything from 1.2 to 1.35 tells two speeds 1.7
/// apart. So is a visit long enough to tell of which the machine's host took more than a quarter away. The level moves
/// while a study is made, and visits are judged again by the last one. The remembered level only tells whether the
/// whole study was slow: holding visits against a level that the machine rarely shows would leave nothing to answer
/// from.
class YardstickJudge {
 public:
  /// `remembered_ns`: the best level known of this machine; nothing where none is known.
  explicit YardstickJudge(std::optional<double> remembered_ns) : remembered_ns_(remembered_ns) {}

  /// Takes the readings of one visit into account; visits without a yardstick are ignored.
  void add(const Visit& visit);

  /// Level of the study: the lowest reading with a third of all readings at most 1.15 times it. Nothing before the
  /// first.
  std::optional<double> level_ns() const;
  /// Whether that level stays more than 1.15 above the remembered one: the machine as it was, not as it can be.
  bool is_slow_throughout() const;
  /// Best level known of the machine before; nothing where none was known.
  std::optional<double> remembered_ns() const { return remembered_ns_; }
  /// Reading above which the machine is disturbed; nothing before the first reading.
  std::optional<double> limit_ns() const;
  bool condemns(const Visit& visit) const;

 private:
  std::optional<double> remembered_ns_;
  std::vector<double> early_;            ///< Readings beside visits before the blocks, ascending,
  std::vector<double> in_blocks_;        ///< and of the blocks.
  mutable std::optional<double> level_;  ///< As last computed; forgotten with every reading.
};

/// Whether answers rest on a visit: it was made in a block, has samples, and is not condemned by the judge of the whole
/// study, whatever was thought of it when it was made.
bool is_evidence(const Visit& visit, const YardstickJudge& of_whole_study);

/// Whether a visit was made in a block, and not for placing or for a check.
bool is_of_a_block(const Visit& visit);

/// The visits of a study that answers rest on.
std::vector<const Visit*> evidence_visits(const Study& study);

}  // namespace mileage
