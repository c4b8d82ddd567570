#include "festival/drift/lantern_columns.h"

#include <algorithm>
#include <utility>

namespace mileage::festival {
namespace {

/// Ten columns of a strip take 20 KiB.
constexpr std::int64_t strip = 512;
/// Offset of columns within a page. Equal offsets map to the same cache sets and slow some counts by a tenth.
constexpr std::size_t stagger_floats = 112;

std::size_t stride_for(std::int64_t count) {
  const auto pages = (static_cast<std::size_t>(count) + page_floats - 1) / page_floats;
  return pages * page_floats + stagger_floats;
}

}  // namespace

void LanternColumns::reserve(std::int64_t count) {
  if (count <= room_) return;
  const std::size_t stride = stride_for(count);
  LineVector<float> numbers(fields * stride);
  for (std::size_t field = 0; field < fields; ++field)
    std::copy_n(numbers_.data() + field * stride_, count_, numbers.data() + field * stride);
  numbers_ = std::move(numbers);
  stride_ = stride;
  room_ = count;
  keys_.resize(keys_begin + static_cast<std::size_t>(count));
}

void LanternColumns::set_velocity(std::int64_t i, float vx_now, float vy_now) {
  column(vx)[i] = vx_now;
  column(vy)[i] = vy_now;
}

void LanternColumns::carry_range(std::int64_t from, std::int64_t to, const std::vector<Moment>& moments,
                                 CarryStrip carry_strip) {
  for (std::int64_t i = from; i < to; i += strip) {
    const StripStart start{column(x_m) + i, column(y_m) + i,   column(height_m) + i, column(vx) + i,   column(vy) + i,
                           column(vz) + i,  column(age_s) + i, column(flicker) + i,  column(lean) + i, keys() + i};
    for (const Moment& now : moments) carry_strip(std::min(to - i, strip), now, start);
  }
}

}  // namespace mileage::festival
