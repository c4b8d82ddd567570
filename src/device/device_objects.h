// Buffers, programs, canvas and frames in flight. The current Context must outlive them.
#pragma once

#include <cstdint>
#include <deque>
#include <string>
#include <utility>
#include <vector>

#include "device/context.h"
#include "mileage/types/frame.h"
#include "mileage/types/picture.h"

namespace mileage::device {

/// Owns a device object, also if making it fails.
class DeviceName {
 public:
  using GiveBack = void (*)(unsigned);
  DeviceName() = default;
  DeviceName(unsigned id, GiveBack give_back) : id_(id), give_back_(give_back) {}
  DeviceName(DeviceName&& other) noexcept : id_(std::exchange(other.id_, 0)), give_back_(other.give_back_) {}
  DeviceName& operator=(DeviceName&& other) noexcept {
    std::swap(id_, other.id_);
    std::swap(give_back_, other.give_back_);
    return *this;
  }
  ~DeviceName() {
    if (id_ != 0) give_back_(id_);
  }
  unsigned id() const { return id_; }

 private:
  unsigned id_ = 0;
  GiveBack give_back_ = nullptr;
};

DeviceName new_vertex_layout();
DeviceName new_samples_query();

/// Device memory of fixed size. Out-of-range access throws Error (variant).
class Buffer {
 public:
  /// Throws Error (variant) if too large or out of memory. `data` may be nullptr.
  Buffer(const Context& context, std::int64_t bytes, const void* data = nullptr);
  Buffer(const Buffer&) = delete;
  Buffer& operator=(const Buffer&) = delete;

  unsigned id() const { return name_.id(); }
  std::int64_t bytes() const { return bytes_; }
  void upload(std::int64_t offset, std::int64_t bytes, const void* data);
  void download(std::int64_t offset, std::int64_t bytes, void* data) const;
  /// For a shader, as storage number `place`.
  void bind_storage(unsigned place) const;
  /// Throws where the buffer does not hold this many bytes.
  void require(std::int64_t bytes, const char* what) const;

 private:
  DeviceName name_;
  std::int64_t bytes_ = 0;
};

/// A compiled program. Throws Error (variant) with the compiler's first line where a shader does not compile or link.
class Program {
 public:
  static Program compute(const std::string& source);
  static Program drawing(const std::string& vertex_source, const std::string& fragment_source);

  unsigned id() const { return name_.id(); }
  void use() const;
  /// Place of a uniform; throws where the program has none of that name.
  int uniform(const char* name) const;

 private:
  explicit Program(DeviceName name) : name_(std::move(name)) {}
  DeviceName name_;
};

/// Invocations of one work group of a compute shader; its source begins with this constant as LANTERNS.
inline constexpr int group_size = 128;
/// `count` invocations; `invocation()` may be >= `count` in the last group.
void dispatch(const Program& program, std::int64_t count);
/// Version, group size, `invocation()`.
std::string compute_preamble();

/// Off-screen, with depth.
class Canvas {
 public:
  Canvas(int width, int height);
  Canvas(const Canvas&) = delete;
  Canvas& operator=(const Canvas&) = delete;

  int width() const { return width_; }
  int height() const { return height_; }
  void bind() const;
  Picture picture() const;

 private:
  int width_;
  int height_;
  DeviceName colour_;
  DeviceName depth_;
  DeviceName frame_;  ///< Destroyed first.
};

/// With a program that needs no vertices.
void draw_whole_canvas(const Program& program);

class FramesUnderWay {
 public:
  /// `max` >= 1; 1 waits for every frame.
  FramesUnderWay(const Context& context, int max) : context_(&context), max_(max) {}
  ~FramesUnderWay();
  FramesUnderWay(const FramesUnderWay&) = delete;
  FramesUnderWay& operator=(const FramesUnderWay&) = delete;

  void begin();
  /// Ends the frame begun; waits until fewer than `max` are in flight. Adds finished timers to device_time_counter.
  /// Throws Error (variant) if the device is lost.
  void handed_over(Frame& frame);

 private:
  struct UnderWay {
    void* finished = nullptr;  ///< Fence; nullptr before.
    unsigned from = 0;         ///< Timer queries.
    unsigned to = 0;
  };
  void wait_for_oldest(Frame& frame);
  unsigned stamp();

  const Context* context_;
  int max_;
  std::deque<UnderWay> frames_;
  std::vector<unsigned> free_queries_;
};

}  // namespace mileage::device
