#include "festival/jostle/cell_table.h"
#include "festival/jostle/jostle_variants.h"

namespace mileage::festival::jostle {
namespace {

class JostleHashed : public JostleVariant {
 public:
  explicit JostleHashed(const SetUp& set_up) : JostleVariant(set_up), table_(basin(), set_up.knobs.number("cell")) {}

 private:
  Found push_apart(Frame& frame) override {
    {
      const auto phase = frame.phase("cells");
      table_.clear(alive());
      for (std::int64_t i = 0; i < alive(); ++i) table_.put_alone(i, x_of(i), y_of(i));
    }
    const auto phase = frame.phase("pairs");
    Found found;
    for (std::int64_t i = 0; i < alive(); ++i) {
      const std::int64_t row = table_.cells().column(y_of(i));
      const std::int64_t column = table_.cells().column(x_of(i));
      const auto look = [&](std::int64_t other) {
        ++found.tested;
        meet<Moves::both>(lanterns(), i, other, found);
      };
      table_.each_in(row, column, [&](std::int64_t other) {
        if (other < i) look(other);
      });
      table_.each_in(row, column + 1, look);
      for (std::int64_t beside = column - 1; beside <= column + 1; ++beside) table_.each_in(row + 1, beside, look);
    }
    return found;
  }

  float x_of(std::int64_t i) const { return lanterns().x[static_cast<std::size_t>(i)]; }
  float y_of(std::int64_t i) const { return lanterns().y[static_cast<std::size_t>(i)]; }

  CellTable table_;
};

}  // namespace

std::unique_ptr<Variant> make_hashed(const SetUp& set_up) { return std::make_unique<JostleHashed>(set_up); }

}  // namespace mileage::festival::jostle
