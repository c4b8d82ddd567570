// The shapes of lanterns, of our own making.
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

/// From this many triangles on a lantern has a body; with fewer it is made of leaves of two.
inline constexpr int min_facets_of_body = 12;
inline constexpr int max_facets = 2000;

/// Lanterns come in three shapes, in turn: a hexagon of paper, a lotus bowl, and a tall reed lantern. Kinds beyond the
/// first three are of the same shapes in other proportions and tints. All kinds have as many triangles: at most
/// `facets` (2 to max_facets), halved with each `detail` in [0, details), never fewer than 2.
Mesh lantern_mesh(int kind, int facets, int detail);
/// How high a lantern of that kind is, at scale 1.
float lantern_height_m(int kind);

}  // namespace mileage::device
