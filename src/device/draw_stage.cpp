#include "device/draw_stage.h"

#include <algorithm>
#include <string>

#include <epoxy/gl.h>

namespace mileage::device {
namespace {

constexpr unsigned vertex_binding = 0;
constexpr unsigned instance_binding = 1;
constexpr unsigned seen_binding = 7;
constexpr int feeds = 3;
/// Noted by the counting shader.
constexpr std::uint32_t drawn_bit = 1;
constexpr std::uint32_t in_view_bit = 2;

constexpr const char* vertex_shader = R"(
layout(location = 0) in vec3 corner;
layout(location = 1) in vec3 tint;
#ifdef UNIFORMS
uniform vec4 own[2];
#else
layout(location = 2) in vec4 in_place;
layout(location = 3) in vec4 in_turn;
#endif
#ifdef RESIDENT
uniform float time;
#endif
#ifdef COUNTING
layout(std430, binding = 7) buffer Seen { uint seen[]; };
#endif
uniform mat4 camera;
out vec3 colour;

void main() {
  vec4 p, q;
#if defined(UNIFORMS)
  p = own[0];
  q = own[1];
#elif defined(RESIDENT)
  place(in_place, in_turn, time, p, q);
#else
  p = in_place;
  q = in_turn;
#endif
#ifdef COUNTING
  vec4 middle = camera * vec4(p.xyz, 1.0);
  seen[uint(q.w)] = all(lessThanEqual(abs(middle.xyz), vec3(middle.w))) ? 3u : 1u;
#endif
  vec2 turned = vec2(q.x * corner.x - q.y * corner.z, q.y * corner.x + q.x * corner.z);
  gl_Position = camera * vec4(vec3(turned.x, corner.y, turned.y) * p.w + p.xyz, 1.0);
  float clear = 1.0 / (1.0 + 0.01 * gl_Position.w);
  colour = mix(vec3(0.62, 0.36, 0.22), tint * q.z * 1.2, clear);
}
)";

constexpr const char* fragment_shader = R"(#version 450 core
in vec3 colour;
out vec4 pixel;
void main() { pixel = vec4(colour, 1.0); }
)";

constexpr const char* background_vertex_shader = R"(#version 450 core
out vec2 at;
void main() {
  at = vec2(float((gl_VertexID << 1) & 2), float(gl_VertexID & 2)) * 2.0 - 1.0;
  gl_Position = vec4(at, 0.0, 1.0);
}
)";

constexpr const char* background_fragment_shader = R"(#version 450 core
in vec2 at;
out vec4 pixel;
const float horizon = 0.29;
void main() {
  float up = at.y - horizon;
  vec3 sky = mix(vec3(0.16, 0.13, 0.25), vec3(0.02, 0.03, 0.09), clamp(up * 1.6, 0.0, 1.0));
  vec3 river = mix(vec3(0.20, 0.14, 0.20), vec3(0.02, 0.05, 0.11), clamp(-up * 1.1, 0.0, 1.0));
  pixel = vec4(up > 0.0 ? sky : river, 1.0);
}
)";

std::string vertex_source(Feed feed, bool counting) {
  std::string source = "#version 450 core\n";
  if (feed == Feed::uniforms) source += "#define UNIFORMS\n";
  if (feed == Feed::resident) source += "#define RESIDENT\n";
  if (counting) source += "#define COUNTING\n";
  if (feed == Feed::resident) source += placed_in_shaders();
  return source + vertex_shader;
}

/// About equal; may be empty for few triangles.
std::vector<MeshRange> parts_of(const Mesh& mesh, int parts, std::size_t first_index, std::size_t first_vertex) {
  std::vector<MeshRange> ranges;
  for (int part = 0; part < parts; ++part) {
    const std::int64_t from = mesh.triangles() * part / parts;
    const std::int64_t to = mesh.triangles() * (part + 1) / parts;
    ranges.push_back({static_cast<std::uint32_t>(3 * (to - from)),
                      static_cast<std::uint32_t>(first_index + static_cast<std::size_t>(3 * from)),
                      static_cast<std::int32_t>(first_vertex)});
  }
  return ranges;
}

std::int64_t bytes_of(std::size_t size, std::size_t each) { return static_cast<std::int64_t>(size * each); }

}  // namespace

DrawStage::DrawStage(const SetUp& set_up)
    : world_(set_up),
      canvas_(world_.size.width, world_.size.height),
      background_(Program::drawing(background_vertex_shader, background_fragment_shader)),
      seen_(context_, 4 * set_up.count) {
  build_meshes();
  for (const bool counting : {false, true})
    for (const Feed feed : {Feed::uniforms, Feed::instances, Feed::resident})
      drawings_.push_back(drawing(feed, counting));
  samples_query_ = new_samples_query();
  context_.check();
}

void DrawStage::build_meshes() {
  std::vector<MeshVertex> vertices;
  std::vector<std::uint32_t> indices;
  for (int kind = 0; kind < world_.kinds; ++kind)
    for (int detail = 0; detail < details; ++detail) {
      const Mesh mesh = lantern_mesh(kind, world_.facets, detail);
      for (const MeshRange& range : parts_of(mesh, world_.parts, indices.size(), vertices.size()))
        ranges_.push_back(range);
      vertices.insert(vertices.end(), mesh.vertices.begin(), mesh.vertices.end());
      indices.insert(indices.end(), mesh.indices.begin(), mesh.indices.end());
    }
  vertices_ = std::make_unique<Buffer>(context_, bytes_of(vertices.size(), sizeof(MeshVertex)), vertices.data());
  indices_ = std::make_unique<Buffer>(context_, bytes_of(indices.size(), sizeof(std::uint32_t)), indices.data());

  layout_ = new_vertex_layout();
  ::glVertexArrayVertexBuffer(layout_.id(), vertex_binding, vertices_->id(), 0, sizeof(MeshVertex));
  ::glVertexArrayElementBuffer(layout_.id(), indices_->id());
  ::glVertexArrayBindingDivisor(layout_.id(), instance_binding, 1);
  const auto attribute = [&](unsigned place, int floats, unsigned offset, unsigned binding) {
    ::glEnableVertexArrayAttrib(layout_.id(), place);
    ::glVertexArrayAttribFormat(layout_.id(), place, floats, GL_FLOAT, GL_FALSE, offset);
    ::glVertexArrayAttribBinding(layout_.id(), place, binding);
  };
  attribute(0, 3, 0, vertex_binding);
  attribute(1, 3, 12, vertex_binding);
  attribute(2, 4, 0, instance_binding);
  attribute(3, 4, 16, instance_binding);
}

DrawStage::Drawing DrawStage::drawing(Feed feed, bool counting) const {
  Drawing made{Program::drawing(vertex_source(feed, counting), fragment_shader), -1, -1, -1};
  made.camera = made.program.uniform("camera");
  if (feed == Feed::resident) made.time = made.program.uniform("time");
  if (feed == Feed::uniforms) made.own = made.program.uniform("own[0]");
  return made;
}

const DrawStage::Drawing& DrawStage::current(Feed feed) const {
  return drawings_[static_cast<std::size_t>(feed) + (counting_ ? feeds : 0)];
}

const MeshRange& DrawStage::range(int kind, int detail, int part) const {
  return ranges_[static_cast<std::size_t>((kind * details + detail) * world_.parts + part)];
}

void DrawStage::clear() const {
  canvas_.bind();
  ::glEnable(GL_DEPTH_TEST);
  ::glClearColor(0.02F, 0.03F, 0.08F, 1);
  ::glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
}

void DrawStage::draw_background() const {
  ::glDisable(GL_DEPTH_TEST);
  draw_whole_canvas(background_);
  ::glEnable(GL_DEPTH_TEST);
}

void DrawStage::use(Feed feed, float time_s) const {
  const Drawing& drawing = current(feed);
  drawing.program.use();
  ::glUniformMatrix4fv(drawing.camera, 1, GL_FALSE, camera().data());
  if (drawing.time >= 0) ::glUniform1f(drawing.time, time_s);
}

void DrawStage::give(const Placed& lantern) const {
  const Drawing& drawing = current(Feed::uniforms);
  ::glUniform4fv(drawing.own, 2, &lantern.x_m);
}

void DrawStage::bind(const Buffer* instances, std::int64_t stride) const {
  ::glBindVertexArray(layout_.id());
  const Buffer& source = instances != nullptr ? *instances : *vertices_;
  ::glBindVertexBuffer(instance_binding, source.id(), 0, static_cast<int>(stride));
}

void DrawStage::Called::tell(Frame& frame) const {
  frame.add("calls", static_cast<double>(calls));
  frame.add("triangles", static_cast<double>(triangles));
}

void DrawStage::draw_one(const MeshRange& range, Called& called) const {
  const auto offset = reinterpret_cast<const void*>(std::uintptr_t{range.first_index} * sizeof(std::uint32_t));
  ::glDrawElementsBaseVertex(GL_TRIANGLES, static_cast<int>(range.indices), GL_UNSIGNED_INT, offset,
                             range.first_vertex);
  ++called.calls;
  called.triangles += range.indices / 3;
}

void DrawStage::draw_instances(const MeshRange& range, std::int64_t first, std::int64_t count, const Buffer& instances,
                               Frame& frame, std::int64_t stride) const {
  if (count == 0) return;
  instances.require((first + count) * stride, "the instances of a call");
  const auto offset = reinterpret_cast<const void*>(std::uintptr_t{range.first_index} * sizeof(std::uint32_t));
  ::glDrawElementsInstancedBaseVertexBaseInstance(GL_TRIANGLES, static_cast<int>(range.indices), GL_UNSIGNED_INT,
                                                  offset, static_cast<int>(count), range.first_vertex,
                                                  static_cast<unsigned>(first));
  frame.add("calls", 1);
  frame.add("triangles", static_cast<double>(count) * range.indices / 3);
}

void DrawStage::start_counting() {
  counting_ = true;
  const std::uint32_t zero = 0;
  ::glClearNamedBufferData(seen_.id(), GL_R32UI, GL_RED_INTEGER, GL_UNSIGNED_INT, &zero);
  seen_.bind_storage(seen_binding);
  // Occlusion depends on drawing order: count everything covered.
  ::glDepthFunc(GL_ALWAYS);
  ::glBeginQuery(GL_SAMPLES_PASSED, samples_query_.id());
}

DrawStage::Counted DrawStage::stop_counting() {
  counting_ = false;
  ::glEndQuery(GL_SAMPLES_PASSED);
  ::glDepthFunc(GL_LESS);
  ::glMemoryBarrier(GL_SHADER_STORAGE_BARRIER_BIT | GL_BUFFER_UPDATE_BARRIER_BIT);
  GLint64 samples = 0;
  ::glGetQueryObjecti64v(samples_query_.id(), GL_QUERY_RESULT, &samples);
  std::vector<std::uint32_t> seen(world_.lanterns.size());
  seen_.download(0, bytes_of(seen.size(), sizeof(std::uint32_t)), seen.data());
  context_.check();
  const auto having = [&](std::uint32_t bit) {
    return std::count_if(seen.begin(), seen.end(), [bit](std::uint32_t one) { return (one & bit) != 0; });
  };
  return {having(drawn_bit), having(in_view_bit), samples};
}

}  // namespace mileage::device
