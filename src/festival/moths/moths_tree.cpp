#include <algorithm>
#include <cmath>
#include <numeric>

#include "festival/moths/moths_variants.h"
#include "festival/moths/moths_world.h"

namespace mileage::festival::moths {
namespace {

/// k-d tree of the lanterns when it was built. Searches widen by their possible drift and test newer lanterns one by
/// one.
class MothsTree : public MothsVariant {
 public:
  explicit MothsTree(const SetUp& set_up)
      : MothsVariant(set_up),
        every_(set_up.knobs.whole("rebuild")),
        drift_m_(drift_m_per_s * std::sqrt(2.0F) * static_cast<float>(set_up.step_s)) {}

 private:
  static constexpr std::size_t leaf = 8;

  /// Position when the tree was built.
  struct Node {
    float x, y;
    std::uint32_t number;
    std::uint32_t slot;
  };

  void prepare() override {
    if (frames() % every_ == 0) build();
    slack_m_ = static_cast<float>(frames() - built_) * drift_m_ * 1.0001F;
    place_of_slot_now_.resize(lanterns().size());
    since_.clear();
    for (std::size_t i = 0; i < lanterns().size(); ++i) {
      place_of_slot_now_[lanterns().slot[i]] = static_cast<std::uint32_t>(i);
      if (lanterns().number[i] >= first_since_) since_.push_back(static_cast<std::uint32_t>(i));
    }
  }

  void build() {
    built_ = frames();
    nodes_.clear();
    first_since_ = 0;
    for (std::size_t i = 0; i < lanterns().size(); ++i) {
      nodes_.push_back({lanterns().x[i], lanterns().y[i], lanterns().number[i], lanterns().slot[i]});
      first_since_ = std::max(first_since_, lanterns().number[i] + 1);
    }
    halve(0, nodes_.size(), true);
  }

  void halve(std::size_t from, std::size_t to, bool along_x) {
    if (to - from <= leaf) return;
    const std::size_t middle = (from + to) / 2;
    const auto begin = nodes_.begin();
    std::nth_element(begin + static_cast<std::ptrdiff_t>(from), begin + static_cast<std::ptrdiff_t>(middle),
                     begin + static_cast<std::ptrdiff_t>(to),
                     [&](const Node& a, const Node& b) { return along_x ? a.x < b.x : a.y < b.y; });
    halve(from, middle, !along_x);
    halve(middle + 1, to, !along_x);
  }

  Nearest nearest(float x, float y, Looked& looked) const override {
    Nearest found;
    look(0, nodes_.size(), true, x, y, found, looked);
    for (const std::uint32_t place : since_) found.look_at(lanterns(), place, x, y);
    looked.lanterns += static_cast<std::int64_t>(since_.size());
    return found;
  }

  void look_at(const Node& node, float x, float y, Nearest& found, Looked& looked) const {
    ++looked.lanterns;
    const std::uint32_t place = place_of_slot_now_[node.slot];
    if (lanterns().number[place] == node.number) found.look_at(lanterns(), place, x, y);
  }

  void look(std::size_t from, std::size_t to, bool along_x, float x, float y, Nearest& found, Looked& looked) const {
    if (to - from <= leaf) {
      for (std::size_t i = from; i < to; ++i) look_at(nodes_[i], x, y, found, looked);
      return;
    }
    const std::size_t middle = (from + to) / 2;
    const float beyond = along_x ? x - nodes_[middle].x : y - nodes_[middle].y;
    const auto before = [&] { look(from, middle, !along_x, x, y, found, looked); };
    const auto after = [&] { look(middle + 1, to, !along_x, x, y, found, looked); };
    look_at(nodes_[middle], x, y, found, looked);
    beyond < 0 ? before() : after();
    const float clear_m = std::fabs(beyond) - slack_m_;
    if (clear_m > 0 && clear_m * clear_m > found.squared) return;
    beyond < 0 ? after() : before();
  }

  std::int64_t every_;
  float drift_m_;
  float slack_m_ = 0;
  std::int64_t built_ = 0;
  std::uint32_t first_since_ = 0;
  std::vector<Node> nodes_;
  std::vector<std::uint32_t> place_of_slot_now_, since_;
};

}  // namespace

std::unique_ptr<Variant> make_tree(const SetUp& set_up) { return std::make_unique<MothsTree>(set_up); }

}  // namespace mileage::festival::moths
