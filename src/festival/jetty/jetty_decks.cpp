#include "festival/jetty/jetty_variants.h"
#include "festival/jetty/jetty_world.h"

namespace mileage::festival::jetty {
namespace {

class JettyDecks : public JettyVariant {
 public:
  explicit JettyDecks(const SetUp& set_up) : JettyVariant(set_up) { join_all(); }

 protected:
  std::vector<Box>& decks() { return decks_; }

  /// One box per run of planks in a row.
  template <class Take>
  void join_row(std::int64_t row, const Take& take) const {
    const auto first = static_cast<Cell>(row * width());
    const auto end = static_cast<Cell>(first + width());
    for (Cell cell = first; cell < end; ++cell) {
      if (!is_laid(cell)) continue;
      Box deck = box_of(cell);
      while (cell + 1 < end && is_laid(cell + 1)) deck.x1 = box_of(++cell).x1;
      take(deck);
    }
  }

 private:
  const std::vector<Box>& boxes() const override { return decks_; }
  void changed(Cell) override { join_all(); }

  void join_all() {
    decks_.clear();
    for (std::int64_t row = 0; row < width(); ++row) join_row(row, [&](const Box& deck) { decks_.push_back(deck); });
  }

  std::vector<Box> decks_;
};

class JettyDecksLive : public JettyDecks {
 public:
  using JettyDecks::JettyDecks;

 private:
  /// Rebuilds its row.
  void changed(Cell cell) override {
    const auto row = cell / width();
    const auto y = static_cast<float>(row);
    std::vector<Box>& all = decks();
    for (std::size_t i = 0; i < all.size();)
      if (all[i].y0 == y) {
        all[i] = all.back();
        all.pop_back();
      } else {
        ++i;
      }
    join_row(row, [&](const Box& deck) { all.push_back(deck); });
  }
};

}  // namespace

std::unique_ptr<Variant> make_decks(const SetUp& set_up) { return std::make_unique<JettyDecks>(set_up); }

std::unique_ptr<Variant> make_decks_live(const SetUp& set_up) { return std::make_unique<JettyDecksLive>(set_up); }

}  // namespace mileage::festival::jetty
