// Lantern meshes.
#pragma once

#include <cstdint>
#include <vector>

namespace mileage::device {

/// Position (y up from the water) and color.
struct MeshVertex {
  float x, y, z;
  float red, green, blue;
};

struct Mesh {
  std::vector<MeshVertex> vertices;
  std::vector<std::uint32_t> indices;  ///< Three per triangle.

  std::int64_t triangles() const { return static_cast<std::int64_t>(indices.size() / 3); }
};

/// Finest first.
inline constexpr int details = 3;

/// Fewer triangles make leaves instead.
inline constexpr int min_facets_of_body = 12;
inline constexpr int max_facets = 2000;

/// Three shapes in turn: paper hexagon, lotus bowl, reed lantern; further kinds vary proportions and tints. At most
/// `facets` triangles (2 to max_facets), halved per `detail` in [0, details), at least 2.
Mesh lantern_mesh(int kind, int facets, int detail);
/// At scale 1.
float lantern_height_m(int kind);

}  // namespace mileage::device
