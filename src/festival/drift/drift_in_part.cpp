#include <cmath>
#include <memory>

#include "festival/drift/drift_variants.h"
#include "festival/drift/lantern_objects.h"
#include "festival/drift/sorted_lanterns.h"

namespace mileage::festival {
namespace {

/// Partly converted: the first lanterns are columns, the others still objects.
class DriftInPart : public DriftVariant {
 public:
  explicit DriftInPart(const SetUp& set_up)
      : DriftVariant(set_up),
        converted_(std::llround(set_up.knobs.number("converted") * static_cast<double>(set_up.count))),
        columns_(sorting()),
        objects_(set_up, sorting(), converted_, set_up.count) {
    columns_.set_afloat(set_up.seed, 0, converted_);
  }

  std::int64_t alive() const override { return columns_.size() + objects_.size(); }

 private:
  std::int64_t carry_all(const FrameWork& work, Frame& frame) override {
    {
      const auto phase = frame.phase("columns");
      carry_all_columns(columns_, work, Vectors::usual);
    }
    const auto phase = frame.phase("objects");
    directory_.offer(frame_work_name, &work);
    for (const auto& object : objects_) static_cast<FestivalObject&>(*object).update(directory_);
    return alive();
  }

  void push(std::int64_t index, float vx, float vy) override {
    if (index < converted_)
      columns_.push(index, vx, vy);
    else
      objects_.at(index - converted_).push(vx, vy);
  }

  /// Arrivals are objects.
  void add_lanterns(std::int64_t more) override { objects_.add(more); }

  Lantern lantern(std::int64_t index) const override {
    return index < converted_ ? columns_.lantern(index) : objects_.at(index - converted_).lantern();
  }

  std::int64_t converted_;
  SortedColumns columns_;
  LanternObjects objects_;
  Directory directory_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_in_part(const SetUp& set_up) { return std::make_unique<DriftInPart>(set_up); }

}  // namespace mileage::festival
