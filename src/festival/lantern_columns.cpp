#include "festival/lantern_columns.h"

#include <algorithm>
#include <utility>

namespace mileage::festival {
namespace {

/// Lanterns of one strip: ten columns of it take 20 KiB.
constexpr std::int64_t strip = 512;
/// Columns begin at places that are apart by whole pages and this much. Where all of them begin at the same place of a
/// page, they fall into the same few sets of the nearest caches, and some counts take a tenth longer than their
/// neighbours.
constexpr std::size_t page_floats = 1024;
constexpr std::size_t stagger_floats = 112;
/// The keys begin half a page further.
constexpr std::size_t keys_begin = page_floats / 2;

std::size_t stride_for(std::int64_t count) {
  const auto pages = (static_cast<std::size_t>(count) + page_floats - 1) / page_floats;
  return pages * page_floats + stagger_floats;
}

/// One strip. Not inlined, because the promise that columns do not overlap holds for parameters only.
[[gnu::noinline]] void carry_strip(std::int64_t count, Moment now, float* __restrict x_m, float* __restrict y_m,
                                   float* __restrict height_m, float* __restrict vx, float* __restrict vy,
                                   float* __restrict vz, float* __restrict age_s, float* __restrict flicker,
                                   float* __restrict lean, const std::uint32_t* __restrict key) {
  for (std::int64_t i = 0; i < count; ++i)  // this loop must be vectorised
    carry(now, x_m[i], y_m[i], height_m[i], vx[i], vy[i], vz[i], age_s[i], flicker[i], lean[i], key[i]);
}

}  // namespace

LanternColumns::LanternColumns(std::uint64_t seed, std::int64_t count)
    : count_(count),
      stride_(stride_for(count)),
      numbers_(fields * stride_),
      keys_(keys_begin + static_cast<std::size_t>(count)) {
  for (std::int64_t i = 0; i < count; ++i) set(i, lantern_set_afloat(seed, i));
}

void LanternColumns::set(std::int64_t i, const Lantern& one) {
  column(x_m)[i] = one.x_m;
  column(y_m)[i] = one.y_m;
  column(height_m)[i] = one.height_m;
  column(vx)[i] = one.vx;
  column(vy)[i] = one.vy;
  column(vz)[i] = one.vz;
  column(age_s)[i] = one.age_s;
  column(flicker)[i] = one.flicker;
  column(lean)[i] = one.lean;
  keys()[i] = one.key;
}

void LanternColumns::add(std::uint64_t seed, std::int64_t more) {
  const std::size_t stride = stride_for(count_ + more);
  std::vector<float> numbers(fields * stride);
  for (std::size_t field = 0; field < fields; ++field)
    std::copy_n(numbers_.data() + field * stride_, count_, numbers.data() + field * stride);
  numbers_ = std::move(numbers);
  stride_ = stride;
  keys_.resize(keys_begin + static_cast<std::size_t>(count_ + more));
  for (const std::int64_t end = count_ + more; count_ < end; ++count_) set(count_, lantern_set_afloat(seed, count_));
}

std::uint32_t* LanternColumns::keys() { return keys_.data() + keys_begin; }

const std::uint32_t* LanternColumns::keys() const { return keys_.data() + keys_begin; }

Lantern LanternColumns::lantern(std::int64_t i) const {
  return {column(x_m)[i], column(y_m)[i],   column(height_m)[i], column(vx)[i],   column(vy)[i],
          column(vz)[i],  column(age_s)[i], column(flicker)[i],  column(lean)[i], keys()[i]};
}

void LanternColumns::carry_range(std::int64_t from, std::int64_t to, const std::vector<Moment>& moments) {
  for (std::int64_t i = from; i < to; i += strip)
    for (const Moment& now : moments)
      carry_strip(std::min(to - i, strip), now, column(x_m) + i, column(y_m) + i, column(height_m) + i, column(vx) + i,
                  column(vy) + i, column(vz) + i, column(age_s) + i, column(flicker) + i, column(lean) + i, keys() + i);
}

}  // namespace mileage::festival
