#include "device/lantern_meshes.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>

namespace mileage::device {
namespace {

constexpr double pi = 3.14159265358979323846;

struct Colour {
  float red, green, blue;
};

Colour blended(const Colour& from, const Colour& to, double share) {
  const auto part = static_cast<float>(std::clamp(share, 0.0, 1.0));
  return {from.red + part * (to.red - from.red), from.green + part * (to.green - from.green),
          from.blue + part * (to.blue - from.blue)};
}

struct Shape {
  int rings;  ///< Of the finest detail,
  int segments;
  std::function<double(double)> radius;          ///< In metres over the height in [0, 1],
  std::function<double(double, double)> petals;  ///< times this, over height and angle.
  double height_m;
  Colour low, high;
};

double plain(double, double) { return 1; }

Shape hexagon() {
  return {1, 6, [](double t) { return 0.42 + 0.08 * t; }, plain, 0.9, {1.0F, 0.62F, 0.22F}, {1.0F, 0.85F, 0.55F}};
}

Shape lotus() {
  return {10,
          24,
          [](double t) { return 0.18 + 0.55 * std::sqrt(t); },
          [](double t, double angle) { return 1 + 0.18 * t * std::cos(6 * angle); },
          0.45,
          {0.75F, 0.25F, 0.35F},
          {1.0F, 0.70F, 0.62F}};
}

Shape reed() {
  return {40,
          25,
          [](double t) { return 0.20 + 0.06 * std::sin(9 * pi * t) * (1 - t) + 0.05 * std::sin(pi * t); },
          plain,
          1.7,
          {0.95F, 0.45F, 0.12F},
          {1.0F, 0.92F, 0.66F}};
}

Shape shape_of(int kind) {
  const std::array<Shape (*)(), 3> shapes{hexagon, lotus, reed};
  Shape shape = shapes[static_cast<std::size_t>(kind % 3)]();
  const int cousin = kind / 3;
  shape.height_m *= 1 + 0.12 * (cousin % 4);
  shape.low = blended(shape.low, {0.55F, 0.20F, 0.60F}, 0.12 * (cousin % 5));
  return shape;
}

/// Number of steps at a detail: a half and a quarter of the finest.
int steps_at(int finest, int least, int detail) { return std::max(least, finest >> detail); }

}  // namespace

float lantern_height_m(int kind) { return static_cast<float>(shape_of(kind).height_m); }

Mesh lantern_mesh(int kind, int detail) {
  const Shape shape = shape_of(kind);
  const int rings = steps_at(shape.rings, 1, detail);
  const int segments = steps_at(shape.segments, std::min(shape.segments, 5), detail);
  Mesh mesh;
  for (int ring = 0; ring <= rings; ++ring)
    for (int segment = 0; segment < segments; ++segment) {
      const double t = static_cast<double>(ring) / rings;
      const double angle = 2 * pi * segment / segments;
      const double radius = shape.radius(t) * shape.petals(t, angle);
      const Colour colour = blended(shape.low, shape.high, t * (0.8 + 0.2 * std::cos(angle)));
      mesh.vertices.push_back({static_cast<float>(radius * std::cos(angle)), static_cast<float>(shape.height_m * t),
                               static_cast<float>(radius * std::sin(angle)), colour.red, colour.green, colour.blue});
    }
  for (int ring = 0; ring < rings; ++ring)
    for (int segment = 0; segment < segments; ++segment) {
      const auto at = [&](int r, int s) { return static_cast<std::uint32_t>(r * segments + s % segments); };
      for (const std::uint32_t corner : {at(ring, segment), at(ring + 1, segment), at(ring, segment + 1),
                                         at(ring, segment + 1), at(ring + 1, segment), at(ring + 1, segment + 1)})
        mesh.indices.push_back(corner);
    }
  return mesh;
}

}  // namespace mileage::device
