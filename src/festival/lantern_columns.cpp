#include "festival/lantern_columns.h"

#include <algorithm>

namespace mileage::festival {
namespace {

/// Lanterns of one strip: ten columns of it take 20 KiB.
constexpr std::int64_t strip = 512;

/// One strip. Not inlined, because the promise that columns do not overlap holds for parameters only.
[[gnu::noinline]] void carry_strip(std::int64_t count, Moment now, float* __restrict x_m, float* __restrict y_m, float* __restrict height_m,
                 float* __restrict vx, float* __restrict vy, float* __restrict vz, float* __restrict age_s,
                 float* __restrict flicker, float* __restrict lean, const std::uint32_t* __restrict key) {
  for (std::int64_t i = 0; i < count; ++i)  // this loop must be vectorised
    carry(now, x_m[i], y_m[i], height_m[i], vx[i], vy[i], vz[i], age_s[i], flicker[i], lean[i], key[i]);
}

}  // namespace

LanternColumns::LanternColumns(std::uint64_t seed, std::int64_t count) {
  const auto size = static_cast<std::size_t>(count);
  for (auto* column : {&x_m_, &y_m_, &height_m_, &vx_, &vy_, &vz_, &age_s_, &flicker_, &lean_}) column->resize(size);
  key_.resize(size);
  for (std::size_t i = 0; i < size; ++i) {
    const Lantern one = lantern_set_afloat(seed, static_cast<std::int64_t>(i));
    x_m_[i] = one.x_m;
    y_m_[i] = one.y_m;
    height_m_[i] = one.height_m;
    vx_[i] = one.vx;
    vy_[i] = one.vy;
    vz_[i] = one.vz;
    age_s_[i] = one.age_s;
    flicker_[i] = one.flicker;
    lean_[i] = one.lean;
    key_[i] = one.key;
  }
}

Lantern LanternColumns::lantern(std::int64_t index) const {
  const auto i = static_cast<std::size_t>(index);
  return {x_m_[i], y_m_[i], height_m_[i], vx_[i], vy_[i], vz_[i], age_s_[i], flicker_[i], lean_[i], key_[i]};
}

void LanternColumns::carry_range(std::int64_t from, std::int64_t to, const std::vector<Moment>& moments) {
  for (std::int64_t start = from; start < to; start += strip) {
    const auto i = static_cast<std::size_t>(start);
    for (const Moment& now : moments)
      carry_strip(std::min(to - start, strip), now, &x_m_[i], &y_m_[i], &height_m_[i], &vx_[i], &vy_[i], &vz_[i], &age_s_[i],
                  &flicker_[i], &lean_[i], &key_[i]);
  }
}

}  // namespace mileage::festival
