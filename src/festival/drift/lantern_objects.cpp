#include "festival/drift/lantern_objects.h"

#include <random>
#include <utility>

namespace mileage::festival {
namespace {

/// Position in memory of each object in order of use; a share of them is exchanged, as hours of play fragment a heap.
std::vector<std::size_t> scattered_places(std::size_t count, double share, std::uint64_t seed) {
  std::mt19937_64 random(seed);
  std::vector<std::size_t> places(count), moving;
  for (std::size_t i = 0; i < count; ++i) {
    places[i] = i;
    if (std::uniform_real_distribution<double>(0, 1)(random) < share) moving.push_back(i);
  }
  for (std::size_t i = moving.size(); i > 1; --i) {
    const std::size_t j = std::uniform_int_distribution<std::size_t>(0, i - 1)(random);
    std::swap(places[moving[i - 1]], places[moving[j]]);
  }
  return places;
}

}  // namespace

LanternObjects::LanternObjects(const SetUp& set_up, const Sorting& sorting, std::int64_t from, std::int64_t to)
    : seed_(set_up.seed),
      first_(from),
      sorting_(sorting),
      ballast_(static_cast<std::size_t>(set_up.knobs.whole("ballast"))),
      objects_(static_cast<std::size_t>(to - from)) {
  // Objects are allocated in order of position.
  const std::vector<std::size_t> places =
      scattered_places(objects_.size(), set_up.knobs.number("scatter"), set_up.seed);
  std::vector<std::size_t> used_as(places.size());
  for (std::size_t i = 0; i < places.size(); ++i) used_as[places[i]] = i;
  for (const std::size_t i : used_as) {
    const Lantern one = lantern_set_afloat(seed_, first_ + static_cast<std::int64_t>(i));
    objects_[i] = make_lantern_object(sorting_.sort_of(one.key), ballast_);
    objects_[i]->set(one);
  }
}

void LanternObjects::add(std::int64_t more) {
  for (const std::int64_t end = size() + more; size() < end;) {
    const Lantern one = lantern_set_afloat(seed_, first_ + size());
    objects_.push_back(make_lantern_object(sorting_.sort_of(one.key), ballast_));
    objects_.back()->set(one);
  }
}

}  // namespace mileage::festival
