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
  std::function<double(double)> radius;          ///< Metres over height in [0, 1],
  std::function<double(double, double)> petals;  ///< times this, over height and angle.
  double height_m;
  Colour low, high;
};

double plain(double, double) { return 1; }

Shape hexagon() {
  return {[](double t) { return 0.42 + 0.08 * t; }, plain, 0.9, {1.0F, 0.62F, 0.22F}, {1.0F, 0.85F, 0.55F}};
}

Shape lotus() {
  return {[](double t) { return 0.18 + 0.55 * std::sqrt(t); },
          [](double t, double angle) { return 1 + 0.18 * t * std::cos(6 * angle); },
          0.45,
          {0.75F, 0.25F, 0.35F},
          {1.0F, 0.70F, 0.62F}};
}

Shape reed() {
  return {[](double t) { return 0.20 + 0.06 * std::sin(9 * pi * t) * (1 - t) + 0.05 * std::sin(pi * t); },
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

MeshVertex vertex(double x, double y, double z, const Colour& colour) {
  return {static_cast<float>(x), static_cast<float>(y), static_cast<float>(z), colour.red, colour.green, colour.blue};
}

/// Upright leaves around the flame, two triangles each.
Mesh petals(const Shape& shape, int count) {
  Mesh mesh;
  for (int petal = 0; petal < count; ++petal) {
    const double angle = 2 * pi * petal / count;
    const double across_x = std::cos(angle), across_z = std::sin(angle);
    const double half = shape.radius(0.5);
    const double fold = 0.3 * half;
    const auto at = [&](double across, double height, double out) {
      return vertex(across * across_x - out * across_z, height * shape.height_m, across * across_z + out * across_x,
                    blended(shape.low, shape.high, height));
    };
    const auto first = static_cast<std::uint32_t>(mesh.vertices.size());
    mesh.vertices.insert(mesh.vertices.end(),
                         {at(0, 0, -fold), at(half, 0.55, fold), at(0, 1, -fold), at(-half, 0.55, fold)});
    for (const std::uint32_t corner : {0U, 1U, 2U, 0U, 2U, 3U}) mesh.indices.push_back(first + corner);
  }
  return mesh;
}

/// Surface of revolution.
Mesh body(const Shape& shape, int rings, int segments) {
  Mesh mesh;
  for (int ring = 0; ring <= rings; ++ring)
    for (int segment = 0; segment < segments; ++segment) {
      const double t = static_cast<double>(ring) / rings;
      const double angle = 2 * pi * segment / segments;
      const double radius = shape.radius(t) * shape.petals(t, angle);
      mesh.vertices.push_back(vertex(radius * std::cos(angle), shape.height_m * t, radius * std::sin(angle),
                                     blended(shape.low, shape.high, t * (0.8 + 0.2 * std::cos(angle)))));
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

}  // namespace

float lantern_height_m(int kind) { return static_cast<float>(shape_of(kind).height_m); }

Mesh lantern_mesh(int kind, int facets, int detail) {
  const Shape shape = shape_of(kind);
  const int here = std::max(2, facets >> detail);
  if (here < min_facets_of_body) return petals(shape, here / 2);
  // Rings about as high as wide; two triangles per segment.
  const int segments = std::max(6, static_cast<int>(std::sqrt(here)));
  return body(shape, std::max(1, here / (2 * segments)), segments);
}

}  // namespace mileage::device
