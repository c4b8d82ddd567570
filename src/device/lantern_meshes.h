// The shapes of lanterns: surfaces of revolution of our own making.
#pragma once

#include <cstdint>
#include <vector>

namespace mileage::device {

/// Six floats: place (y upwards from the water), and colour.
struct MeshVertex {
  float x, y, z;
  float red, green, blue;
};

struct Mesh {
  std::vector<MeshVertex> vertices;
  std::vector<std::uint32_t> indices;  ///< Three a triangle.

  std::int64_t triangles() const { return static_cast<std::int64_t>(indices.size() / 3); }
};

/// Degrees of detail, finest first.
inline constexpr int details = 3;

/// Lanterns come in three shapes, in turn: a hexagon of paper (12 triangles and more), a lotus bowl, and a tall reed
/// lantern (up to 2,000). Kinds beyond the first three are of the same shapes in other proportions and tints. `detail`
/// in [0, details).
Mesh lantern_mesh(int kind, int detail);
/// How high a lantern of that kind is, at scale 1.
float lantern_height_m(int kind);

}  // namespace mileage::device
