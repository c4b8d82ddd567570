#include "device/draw_world.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "festival/mixing.h"
#include "types/error.h"

namespace mileage::device {
namespace {

constexpr float tau = 6.28318530718F;
constexpr float nearest_m = 9;
constexpr float farthest_m = 120;
constexpr float eye_height_m = 7;
/// Half width at one metre, and downward tilt (slope).
constexpr float half_width = 0.75F;
/// Of the picture, covered by lanterns.
constexpr float share_of_width = 0.95F;
constexpr float tilt = 0.16F;
constexpr float clip_near_m = 0.5F;
constexpr float clip_far_m = 400;

/// From seed and lantern only.
class Chances {
 public:
  Chances(std::uint64_t seed, std::int64_t index)
      : state_(festival::splitmix64(seed ^ festival::splitmix64(static_cast<std::uint64_t>(index)))) {}
  float next() { return festival::share_of(state_ = festival::splitmix64(state_)); }

 private:
  std::uint64_t state_;
};

float share_of_its_own(std::int64_t index, std::uint64_t salt) {
  return festival::share_of(festival::splitmix64(salt ^ festival::splitmix64(static_cast<std::uint64_t>(index))));
}
constexpr std::uint64_t single_salt = 0x51;
constexpr std::uint64_t changing_salt = 0xc4;

/// "640x360".
PictureSize size_named(const std::string& name) {
  return {std::stoi(name), std::stoi(name.substr(name.find('x') + 1))};
}

Afloat set_afloat(const SetUp& set_up, std::int64_t index, float view, float size) {
  Chances chances(set_up.seed, index);
  Afloat lantern;
  const bool in_view = chances.next() < view;
  const float along = chances.next();
  const OnRiver at = on_river(chances.next() * 2 - 1, along);
  lantern.x_m = at.x_m;
  lantern.z_m = in_view ? at.z_m : viewer_z_m * 2 - at.z_m;
  lantern.scale = size * (0.8F + 0.4F * chances.next());
  lantern.turn = tau * chances.next();
  lantern.swing = chances.next();
  lantern.glow = 0.7F + 0.3F * chances.next();
  lantern.number = static_cast<float>(index);
  return lantern;
}

}  // namespace

std::vector<std::string> picture_sizes() { return {"640x360", "160x90", "1280x720", "1920x1080"}; }

DrawWorld::DrawWorld(const SetUp& set_up)
    : kinds(static_cast<int>(set_up.knobs.whole("kinds"))),
      parts(static_cast<int>(set_up.knobs.whole("parts"))),
      facets(static_cast<int>(set_up.knobs.whole("facets"))),
      changing(static_cast<float>(set_up.knobs.number("regroup"))),
      size(size_named(set_up.knobs.text("pixels"))) {
  if (set_up.count > max_lanterns)
    throw Error({.kind = FaultKind::variant,
                 .problem = "more lanterns than this scenario can number",
                 .found = fmt::format("{}", set_up.count),
                 .accepted = fmt::format("at most {}", max_lanterns)});
  const auto view = static_cast<float>(set_up.knobs.number("view"));
  const auto scale = static_cast<float>(set_up.knobs.number("size"));
  const auto single = static_cast<float>(set_up.knobs.number("single"));
  std::vector<Afloat> singles;
  lanterns.reserve(static_cast<std::size_t>(set_up.count));
  for (int kind = 0; kind < kinds; ++kind) {
    first_of_kind.push_back(count());
    for (std::int64_t index = kind; index < set_up.count; index += kinds) {
      Afloat lantern = set_afloat(set_up, index, view, scale);
      lantern.kind = static_cast<float>(kind);
      (share_of_its_own(index, single_salt) < single ? singles : lanterns).push_back(lantern);
    }
  }
  first_of_kind.push_back(count());
  lanterns.insert(lanterns.end(), singles.begin(), singles.end());
}

void DrawWorld::change_kinds() {
  for (std::int64_t i = 0; i < first_single(); ++i) {
    Afloat& lantern = lanterns[static_cast<std::size_t>(i)];
    if (share_of_its_own(static_cast<std::int64_t>(lantern.number), changing_salt) < changing)
      lantern.kind = static_cast<float>((static_cast<int>(lantern.kind) + 1) % kinds);
  }
}

void DrawWorld::regroup() {
  // Counting sort by kind.
  const auto end = lanterns.begin() + first_single();
  std::vector<std::int64_t> next(static_cast<std::size_t>(kinds) + 1);
  for (auto lantern = lanterns.begin(); lantern != end; ++lantern) ++next[static_cast<std::size_t>(lantern->kind) + 1];
  for (std::size_t kind = 1; kind < next.size(); ++kind) next[kind] += next[kind - 1];
  first_of_kind = next;
  sorting_.resize(static_cast<std::size_t>(first_single()));
  for (auto lantern = lanterns.begin(); lantern != end; ++lantern)
    sorting_[static_cast<std::size_t>(next[static_cast<std::size_t>(lantern->kind)]++)] = *lantern;
  std::copy(sorting_.begin(), sorting_.end(), lanterns.begin());
}

std::int64_t DrawWorld::count_of_kind(int kind) const {
  const auto at = static_cast<std::size_t>(kind);
  return first_of_kind[at + 1] - first_of_kind[at];
}

OnRiver on_river(float across, float along) {
  // Denser far away.
  const float away = nearest_m + (farthest_m - nearest_m) * std::sqrt(along);
  return {across * share_of_width * half_width * (away - viewer_z_m), away};
}

std::string on_river_in_shaders() {
  return fmt::format(R"(
vec2 on_river(float across, float along) {{
  float away = {:.9f} + {:.9f} * sqrt(along);
  return vec2(across * {:.9f} * (away - {:.9f}), away);
}}
)",
                     nearest_m, farthest_m - nearest_m, share_of_width * half_width, viewer_z_m);
}

Placed placed(const Afloat& lantern, float time_s) {
  const float swing = std::sin(tau * (lantern.swing + 0.3F * time_s));
  const float turn = lantern.turn + 0.2F * swing;
  return {lantern.x_m,
          0.06F * swing,
          lantern.z_m,
          lantern.scale,
          std::cos(turn),
          std::sin(turn),
          lantern.glow * (0.9F + 0.1F * swing),
          lantern.number};
}

const char* placed_in_shaders() {
  return R"(
void place(vec4 a, vec4 b, float time, out vec4 p, out vec4 q) {
  float swing = sin(6.28318530718 * (b.x + 0.3 * time));
  p = vec4(a.x, 0.06 * swing, a.y, a.z);
  float turn = a.w + 0.2 * swing;
  q = vec4(cos(turn), sin(turn), b.y * (0.9 + 0.1 * swing), b.z);
}
)";
}

std::array<float, 16> camera() {
  // Along z, tilted down; w is the distance along the view.
  constexpr float aspect = 16.0F / 9;
  const float depth = (clip_far_m + clip_near_m) / (clip_far_m - clip_near_m);
  const float depth_shift = -2 * clip_far_m * clip_near_m / (clip_far_m - clip_near_m);
  const float x_scale = 1 / half_width;
  const float y_scale = aspect / half_width;
  // Matrix rows; eye at (0, eye_height_m, viewer_z_m).
  const std::array<std::array<float, 4>, 4> rows{{
      {x_scale, 0, 0, 0},
      {0, y_scale, y_scale * tilt, y_scale * (-eye_height_m - tilt * viewer_z_m)},
      {0, 0, depth, depth * -viewer_z_m + depth_shift},
      {0, 0, 1, -viewer_z_m},
  }};
  std::array<float, 16> by_columns{};
  for (std::size_t row = 0; row < 4; ++row)
    for (std::size_t column = 0; column < 4; ++column) by_columns[column * 4 + row] = rows[row][column];
  return by_columns;
}

float height_px_at_1m(PictureSize size) { return camera()[5] * static_cast<float>(size.height) / 2; }

float distance_m(const Placed& lantern) { return std::hypot(lantern.x_m, lantern.z_m - viewer_z_m); }

}  // namespace mileage::device
