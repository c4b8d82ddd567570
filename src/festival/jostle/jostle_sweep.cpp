#include <numeric>
#include <utility>

#include "festival/jostle/jostle_variants.h"
#include "festival/jostle/jostle_world.h"

namespace mileage::festival::jostle {
namespace {

class JostleSweep : public JostleVariant {
 public:
  explicit JostleSweep(const SetUp& set_up) : JostleVariant(set_up) { sort_again(); }

 private:
  Found push_apart(Frame& frame) override {
    {
      const auto phase = frame.phase("sort");
      if (alive() == sorted_)
        keep_sorted();
      else
        sort_again();
    }
    const auto phase = frame.phase("pairs");
    Found found;
    std::int64_t out_of_reach = 0;
    for (std::int64_t a = 0; a < alive(); ++a) {
      while (out_of_reach < alive() && x_of(out_of_reach) - x_of(a) < diameter_m) ++out_of_reach;
      meet_all(lanterns(), a, a + 1, out_of_reach, found);
    }
    return found;
  }

  float x_of(std::int64_t place) const { return lanterns().x[static_cast<std::size_t>(place)]; }

  /// Insertion sort: lanterns move little per frame.
  void keep_sorted() {
    for (std::int64_t place = 1; place < alive(); ++place)
      for (std::int64_t to = place; to > 0 && x_of(to - 1) > x_of(to); --to)
        swap_with_next(static_cast<std::size_t>(to - 1));
  }

  void swap_with_next(std::size_t place) {
    Lanterns& all = lanterns();
    for (auto* column : {&all.x, &all.y, &all.vx, &all.vy}) std::swap((*column)[place], (*column)[place + 1]);
    for (auto* column : {&all.state, &all.still}) std::swap((*column)[place], (*column)[place + 1]);
    std::swap(all.number[place], all.number[place + 1]);
  }

  void sort_again() {
    std::vector<std::int32_t> order(static_cast<std::size_t>(alive()));
    std::iota(order.begin(), order.end(), 0);
    std::sort(order.begin(), order.end(), [&](std::int32_t a, std::int32_t b) { return x_of(a) < x_of(b); });
    Lanterns sorted;
    sorted.resize(alive());
    for (std::size_t place = 0; place < order.size(); ++place)
      sorted.take(lanterns(), static_cast<std::size_t>(order[place]), place);
    std::swap(lanterns(), sorted);
    sorted_ = alive();
  }

  std::int64_t sorted_ = 0;  ///< Number already in nearly sorted order.
};

}  // namespace

std::unique_ptr<Variant> make_sweep(const SetUp& set_up) { return std::make_unique<JostleSweep>(set_up); }

}  // namespace mileage::festival::jostle
