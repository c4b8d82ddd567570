#include <cstdint>
#include <memory>
#include <unordered_map>
#include <vector>

#include "festival/drift/drift_variants.h"
#include "festival/drift/mirrored_lanterns.h"
#include "festival/mixing.h"

namespace mileage::festival {
namespace {

/// Results carry their object's id and find it through a hash table.
class DriftMirroredById : public MirroredLanterns {
 public:
  using MirroredLanterns::MirroredLanterns;

 private:
  void gather(Frame& frame) override {
    for (auto i = static_cast<std::int64_t>(ids_.size()); i < alive(); ++i) {
      ids_.push_back(splitmix64(static_cast<std::uint64_t>(i)));
      by_id_.emplace(ids_.back(), &objects().at(i));
    }
    MirroredLanterns::gather(frame);
  }
  void write_back(Frame&) override {
    for (std::int64_t i = 0; i < columns().size(); ++i)
      by_id_.find(ids_[static_cast<std::size_t>(i)])->second->set(columns().lantern(i));
  }

  std::vector<std::uint64_t> ids_;  ///< By row.
  std::unordered_map<std::uint64_t, LanternObject*> by_id_;
};

}  // namespace

std::unique_ptr<Variant> make_drift_mirrored_by_id(const SetUp& set_up) {
  return std::make_unique<DriftMirroredById>(set_up);
}

}  // namespace mileage::festival
