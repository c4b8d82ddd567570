// What lives on the device: buffers, programs, the picture that is drawn to, and frames under way. Each needs a current
// Context, which must outlive it.
#pragma once

#include <cstdint>
#include <deque>
#include <string>
#include <vector>

#include "device/context.h"

namespace mileage::device {

/// A piece of the device's memory of fixed size. Whatever reaches beyond its end throws Error (variant) before the driver
/// sees it.
class Buffer {
 public:
  /// Throws Error (variant) beyond what a shader may work on, and where there is no memory. `data` may be nullptr.
  Buffer(const Context& context, std::int64_t bytes, const void* data = nullptr);
  ~Buffer();
  Buffer(const Buffer&) = delete;
  Buffer& operator=(const Buffer&) = delete;

  unsigned id() const { return id_; }
  std::int64_t bytes() const { return bytes_; }
  void upload(std::int64_t offset, std::int64_t bytes, const void* data);
  void download(std::int64_t offset, std::int64_t bytes, void* data) const;
  /// For a shader, as storage number `place`.
  void bind_storage(unsigned place) const;
  /// Throws where the buffer does not hold so many bytes.
  void require(std::int64_t bytes, const char* what) const;

 private:
  unsigned id_ = 0;
  std::int64_t bytes_ = 0;
};

/// A compiled program. Throws Error (variant) with the compiler's first line where a shader does not compile or link.
class Program {
 public:
  static Program compute(const std::string& source);
  static Program drawing(const std::string& vertex_source, const std::string& fragment_source);
  ~Program();
  Program(Program&& other) noexcept : id_(other.id_) { other.id_ = 0; }
  Program(const Program&) = delete;
  Program& operator=(const Program&) = delete;

  unsigned id() const { return id_; }
  void use() const;
  /// Place of a uniform; throws where the program has none of that name.
  int uniform(const char* name) const;

 private:
  explicit Program(unsigned id) : id_(id) {}
  unsigned id_;
};

/// Invocations of one work group of a compute shader; its source begins with this constant as LANTERNS.
inline constexpr int group_size = 128;
/// Runs a compute program over `count` invocations; the shader finds its own number by `invocation()`, which may be `count`
/// or larger in the last groups.
void dispatch(const Program& program, std::int64_t count);
/// Beginning of every compute shader: version, group size, and `invocation()`.
std::string compute_preamble();

/// Where frames are drawn to, with depth; off screen.
class Canvas {
 public:
  Canvas(int width, int height);
  ~Canvas();
  Canvas(const Canvas&) = delete;
  Canvas& operator=(const Canvas&) = delete;

  int width() const { return width_; }
  int height() const { return height_; }
  void bind() const;
  /// Three bytes a pixel, rows from above.
  std::vector<std::uint8_t> pixels() const;

 private:
  int width_;
  int height_;
  unsigned frame_ = 0;
  unsigned colour_ = 0;
  unsigned depth_ = 0;
};

/// Draws one triangle that covers the current canvas, by a program that needs no vertices.
void draw_whole_canvas(const Program& program);

/// Frames that were handed to the device and are not finished.
class FramesUnderWay {
 public:
  /// `most` >= 1: with 1, every frame is waited for.
  FramesUnderWay(const Context& context, int most) : context_(&context), most_(most) {}
  ~FramesUnderWay();
  FramesUnderWay(const FramesUnderWay&) = delete;
  FramesUnderWay& operator=(const FramesUnderWay&) = delete;

  /// A frame was handed over: waits until fewer than `most` are under way. Throws Error (variant) where the device is lost.
  void handed_over();

 private:
  void wait_for_oldest();

  const Context* context_;
  int most_;
  std::deque<void*> fences_;
};

}  // namespace mileage::device
