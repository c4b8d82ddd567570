#include "device/device_objects.h"

#include <algorithm>
#include <array>

#include <epoxy/gl.h>
#include <fmt/format.h>

#include "types/error.h"

namespace mileage::device {
namespace {

constexpr std::int64_t max_groups_in_a_row = 65'535;
/// Drivers refuse empty storage.
constexpr std::int64_t min_storage_bytes = 16;
constexpr std::uint64_t look_again_ns = 1'000'000'000;

[[noreturn]] void refuse_object(const std::string& problem, const std::string& found = {},
                                const std::string& accepted = {}) {
  throw Error({.kind = FaultKind::variant, .problem = problem, .found = found, .accepted = accepted});
}

std::string first_line(const std::string& text) { return text.substr(0, text.find('\n')); }

DeviceName compiled(GLenum kind, const std::string& source) {
  DeviceName shader(::glCreateShader(kind), [](unsigned id) { ::glDeleteShader(id); });
  const char* text = source.c_str();
  ::glShaderSource(shader.id(), 1, &text, nullptr);
  ::glCompileShader(shader.id());
  GLint good = GL_FALSE;
  ::glGetShaderiv(shader.id(), GL_COMPILE_STATUS, &good);
  if (good == GL_TRUE) return shader;
  char log[1024] = "";
  ::glGetShaderInfoLog(shader.id(), sizeof log, nullptr, log);
  refuse_object("a shader does not compile on this device", first_line(log));
}

/// Keeps its attachments.
DeviceName linked(const std::vector<const DeviceName*>& shaders) {
  DeviceName program(::glCreateProgram(), [](unsigned id) { ::glDeleteProgram(id); });
  for (const DeviceName* shader : shaders) ::glAttachShader(program.id(), shader->id());
  ::glLinkProgram(program.id());
  GLint good = GL_FALSE;
  ::glGetProgramiv(program.id(), GL_LINK_STATUS, &good);
  if (good == GL_TRUE) return program;
  char log[1024] = "";
  ::glGetProgramInfoLog(program.id(), sizeof log, nullptr, log);
  refuse_object("shaders do not link on this device", first_line(log));
}

DeviceName new_buffer() {
  unsigned id = 0;
  ::glCreateBuffers(1, &id);
  return {id, [](unsigned made) { ::glDeleteBuffers(1, &made); }};
}

DeviceName new_renderbuffer(GLenum format, int width, int height) {
  unsigned id = 0;
  ::glCreateRenderbuffers(1, &id);
  ::glNamedRenderbufferStorage(id, format, width, height);
  return {id, [](unsigned made) { ::glDeleteRenderbuffers(1, &made); }};
}

DeviceName new_framebuffer() {
  unsigned id = 0;
  ::glCreateFramebuffers(1, &id);
  return {id, [](unsigned made) { ::glDeleteFramebuffers(1, &made); }};
}

}  // namespace

DeviceName new_vertex_layout() {
  unsigned id = 0;
  ::glCreateVertexArrays(1, &id);
  return {id, [](unsigned made) { ::glDeleteVertexArrays(1, &made); }};
}

DeviceName new_samples_query() {
  unsigned id = 0;
  ::glCreateQueries(GL_SAMPLES_PASSED, 1, &id);
  return {id, [](unsigned made) { ::glDeleteQueries(1, &made); }};
}

Buffer::Buffer(const Context& context, std::int64_t bytes, const void* data) : bytes_(bytes) {
  if (bytes > context.max_storage_bytes())
    refuse_object("more than one buffer of this device holds", fmt::format("{} bytes", bytes),
                  fmt::format("at most {}", context.max_storage_bytes()));
  context.check();
  name_ = new_buffer();
  ::glNamedBufferStorage(id(), std::max(bytes, min_storage_bytes), nullptr, GL_DYNAMIC_STORAGE_BIT);
  if (data != nullptr && bytes > 0) ::glNamedBufferSubData(id(), 0, bytes, data);
  context.check();
}

void Buffer::upload(std::int64_t offset, std::int64_t bytes, const void* data) {
  require(offset + bytes, "what is sent to it");
  ::glNamedBufferSubData(id(), offset, bytes, data);
}

void Buffer::download(std::int64_t offset, std::int64_t bytes, void* data) const {
  require(offset + bytes, "what is read from it");
  ::glGetNamedBufferSubData(id(), offset, bytes, data);
}

void Buffer::bind_storage(unsigned place) const { ::glBindBufferBase(GL_SHADER_STORAGE_BUFFER, place, id()); }

void Buffer::require(std::int64_t bytes, const char* what) const {
  if (bytes > bytes_)
    refuse_object(fmt::format("a buffer on the device is too small for {}", what), fmt::format("{} bytes", bytes),
                  fmt::format("at most {}", bytes_));
}

Program Program::compute(const std::string& source) {
  const DeviceName shader = compiled(GL_COMPUTE_SHADER, source);
  return Program(linked({&shader}));
}

Program Program::drawing(const std::string& vertex_source, const std::string& fragment_source) {
  const DeviceName vertex = compiled(GL_VERTEX_SHADER, vertex_source);
  const DeviceName fragment = compiled(GL_FRAGMENT_SHADER, fragment_source);
  return Program(linked({&vertex, &fragment}));
}

void Program::use() const { ::glUseProgram(id()); }

int Program::uniform(const char* name) const {
  const int place = ::glGetUniformLocation(id(), name);
  if (place < 0) refuse_object("a program on the device has no such uniform", name);
  return place;
}

void dispatch(const Program& program, std::int64_t count) {
  program.use();
  const std::int64_t groups = (count + group_size - 1) / group_size;
  const std::int64_t in_a_row = std::min(groups, max_groups_in_a_row);
  const std::int64_t rows = (groups + in_a_row - 1) / std::max<std::int64_t>(1, in_a_row);
  ::glDispatchCompute(static_cast<unsigned>(in_a_row), static_cast<unsigned>(rows), 1);
}

std::string compute_preamble() {
  return fmt::format(
      "#version 450 core\nlayout(local_size_x = {}) in;\n"
      "uint invocation() {{\n"
      "  return (gl_WorkGroupID.y * gl_NumWorkGroups.x + gl_WorkGroupID.x) * {}u + gl_LocalInvocationID.x;\n}}\n",
      group_size, group_size);
}

Canvas::Canvas(int width, int height)
    : width_(width),
      height_(height),
      colour_(new_renderbuffer(GL_RGBA8, width, height)),
      depth_(new_renderbuffer(GL_DEPTH_COMPONENT24, width, height)),
      frame_(new_framebuffer()) {
  ::glNamedFramebufferRenderbuffer(frame_.id(), GL_COLOR_ATTACHMENT0, GL_RENDERBUFFER, colour_.id());
  ::glNamedFramebufferRenderbuffer(frame_.id(), GL_DEPTH_ATTACHMENT, GL_RENDERBUFFER, depth_.id());
  if (::glCheckNamedFramebufferStatus(frame_.id(), GL_FRAMEBUFFER) != GL_FRAMEBUFFER_COMPLETE)
    refuse_object(fmt::format("the graphics device cannot draw to {} x {} pixels off screen", width, height));
}

void Canvas::bind() const {
  ::glBindFramebuffer(GL_FRAMEBUFFER, frame_.id());
  ::glViewport(0, 0, width_, height_);
}

Picture Canvas::picture() const {
  const std::size_t row = 3 * static_cast<std::size_t>(width_);
  std::vector<std::uint8_t> from_below(row * static_cast<std::size_t>(height_));
  ::glBindFramebuffer(GL_FRAMEBUFFER, frame_.id());
  ::glPixelStorei(GL_PACK_ALIGNMENT, 1);
  ::glReadPixels(0, 0, width_, height_, GL_RGB, GL_UNSIGNED_BYTE, from_below.data());
  Picture picture{width_, height_, {}};
  picture.pixels.reserve(from_below.size());
  for (int y = height_ - 1; y >= 0; --y) {
    const auto begin = from_below.begin() + static_cast<std::ptrdiff_t>(row) * y;
    picture.pixels.insert(picture.pixels.end(), begin, begin + static_cast<std::ptrdiff_t>(row));
  }
  return picture;
}

void draw_whole_canvas(const Program& program) {
  const DeviceName nothing = new_vertex_layout();
  ::glBindVertexArray(nothing.id());
  program.use();
  ::glDrawArrays(GL_TRIANGLES, 0, 3);
}

FramesUnderWay::~FramesUnderWay() {
  for (const UnderWay& frame : frames_) {
    if (frame.finished != nullptr) ::glDeleteSync(static_cast<GLsync>(frame.finished));
    for (const unsigned query : {frame.from, frame.to})
      if (query != 0) ::glDeleteQueries(1, &query);
  }
  ::glDeleteQueries(static_cast<int>(free_queries_.size()), free_queries_.data());
}

void FramesUnderWay::begin() { frames_.push_back({nullptr, stamp(), 0}); }

void FramesUnderWay::handed_over(Frame& frame) {
  frames_.back().to = stamp();
  frames_.back().finished = ::glFenceSync(GL_SYNC_GPU_COMMANDS_COMPLETE, 0);
  ::glFlush();
  while (frames_.size() >= static_cast<std::size_t>(max_)) wait_for_oldest(frame);
  context_->check();
}

unsigned FramesUnderWay::stamp() {
  unsigned query = 0;
  if (free_queries_.empty()) {
    ::glCreateQueries(GL_TIMESTAMP, 1, &query);
  } else {
    query = free_queries_.back();
    free_queries_.pop_back();
  }
  ::glQueryCounter(query, GL_TIMESTAMP);
  return query;
}

void FramesUnderWay::wait_for_oldest(Frame& frame) {
  const UnderWay& oldest = frames_.front();
  const auto fence = static_cast<GLsync>(oldest.finished);
  while (true) {
    const GLenum state = ::glClientWaitSync(fence, GL_SYNC_FLUSH_COMMANDS_BIT, look_again_ns);
    if (state == GL_ALREADY_SIGNALED || state == GL_CONDITION_SATISFIED) break;
    context_->check();
    if (state != GL_TIMEOUT_EXPIRED) refuse_object("the graphics device could not be waited for");
  }
  std::array<GLuint64, 2> at_ns{};
  ::glGetQueryObjectui64v(oldest.from, GL_QUERY_RESULT, &at_ns[0]);
  ::glGetQueryObjectui64v(oldest.to, GL_QUERY_RESULT, &at_ns[1]);
  frame.add(device_time_counter, at_ns[1] > at_ns[0] ? static_cast<double>(at_ns[1] - at_ns[0]) * 1e-6 : 0);
  free_queries_.insert(free_queries_.end(), {oldest.from, oldest.to});
  ::glDeleteSync(fence);
  frames_.pop_front();
}

}  // namespace mileage::device
