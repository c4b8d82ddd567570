#include "festival/jostle/grid.h"
#include "festival/jostle/jostle_variants.h"

namespace mileage::festival::jostle {
namespace {

class JostleGrid : public JostleVariant {
 public:
  explicit JostleGrid(const SetUp& set_up) : JostleVariant(set_up), grid_(basin(), set_up.knobs.number("cell")) {}

 protected:
  const Grid& grid() const { return grid_; }

 private:
  Found push_apart(Frame& frame) override {
    {
      const auto phase = frame.phase("cells");
      grid_.sort(lanterns());
    }
    const auto phase = frame.phase("pairs");
    return find_pairs();
  }

  virtual Found find_pairs() { return grid_.push_apart(lanterns()); }

  Grid grid_;
};

/// Stops at a maximum number of partners.
class JostleGridCapped : public JostleGrid {
 public:
  explicit JostleGridCapped(const SetUp& set_up) : JostleGrid(set_up), max_(set_up.knobs.whole("partners")) {}

  /// Missed pairs of the last frame, by testing all.
  void count_untimed(Frame& frame) const override {
    Lanterns as_they_are = lanterns();
    Grid all(basin(), set_up().knobs.number("cell"));
    all.sort(as_they_are);
    const std::int64_t contacts = all.push_apart(as_they_are).contacts;
    frame.add("missed contacts", static_cast<double>(std::max<std::int64_t>(0, contacts - found().contacts)));
  }

 private:
  Found find_pairs() override {
    Found found;
    partners_.assign(static_cast<std::size_t>(alive()), 0);
    const auto has_all = [&](std::int64_t place) { return partners_[static_cast<std::size_t>(place)] >= max_; };
    grid().runs_of_rows(0, grid().cells().across(), [&](std::int64_t a, std::int64_t from, std::int64_t to) {
      for (std::int64_t b = from; b < to && !has_all(a); ++b) {
        if (has_all(b)) continue;
        const std::int64_t before = found.contacts;
        ++found.tested;
        meet<Moves::both>(lanterns(), a, b, found);
        if (found.contacts == before) continue;
        ++partners_[static_cast<std::size_t>(a)];
        ++partners_[static_cast<std::size_t>(b)];
      }
    });
    return found;
  }

  std::int64_t max_;
  std::vector<std::int32_t> partners_;
};

}  // namespace

std::unique_ptr<Variant> make_grid(const SetUp& set_up) { return std::make_unique<JostleGrid>(set_up); }

std::unique_ptr<Variant> make_grid_capped(const SetUp& set_up) { return std::make_unique<JostleGridCapped>(set_up); }

}  // namespace mileage::festival::jostle
