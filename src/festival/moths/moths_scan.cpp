#include "festival/moths/moths_variants.h"
#include "festival/moths/moths_world.h"

namespace mileage::festival::moths {
namespace {

class MothsKept : public MothsVariant {
 public:
  using MothsVariant::MothsVariant;

 private:
  Nearest nearest(float x, float y, Looked& looked) const override { return nearest_of_all(x, y, looked); }
};

class MothsScan : public MothsKept {
 public:
  using MothsKept::MothsKept;

 private:
  std::uint32_t remembered(const Moth& moth, Looked& looked) const override {
    return place_of_number(moth.number, looked);
  }
};

class MothsIndex : public MothsKept {
 public:
  using MothsKept::MothsKept;

 private:
  std::uint32_t remembered(const Moth& moth, Looked&) const override { return moth.place; }
};

}  // namespace

std::unique_ptr<Variant> make_scan(const SetUp& set_up) { return std::make_unique<MothsScan>(set_up); }

std::unique_ptr<Variant> make_kept(const SetUp& set_up) { return std::make_unique<MothsKept>(set_up); }

std::unique_ptr<Variant> make_index(const SetUp& set_up) { return std::make_unique<MothsIndex>(set_up); }

}  // namespace mileage::festival::moths
