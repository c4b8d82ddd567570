// A graphics and compute context without a display: OpenGL 4.5 core on the surfaceless EGL platform.
#pragma once

#include <cstdint>
#include <string>

namespace mileage::device {

/// What draws and computes.
struct DeviceFacts {
  std::string name;       ///< As the driver names it.
  std::string driver;     ///< Version of the driver.
  bool software = false;  ///< Whether it is a rasteriser that runs on the processor's cores.
};

/// What a context is asked for. Other values than the defaults serve tests of refusals.
struct ContextRequest {
  const char* egl_library = "libEGL.so.1";
  int major = 4;
  int minor = 5;
};

/// Current on the thread that made it, until it is destroyed. One at a time: making another during that time throws
/// Error. Making it takes some tens of milliseconds.
class Context {
 public:
  /// Throws Error (variant) with the reason in plain words: no library, no device, a version that is too old, a
  /// refusal.
  explicit Context(const ContextRequest& request = {});
  ~Context();
  Context(const Context&) = delete;
  Context& operator=(const Context&) = delete;

  const DeviceFacts& facts() const { return facts_; }
  /// Largest buffer that a shader may work on, in bytes.
  std::int64_t max_storage_bytes() const { return max_storage_bytes_; }

  /// Throws Error (variant) where the device was lost, or refused something since the last check.
  void check() const;
  /// From now on check() behaves as if the device was lost: for tests.
  void pretend_lost() { pretend_lost_ = true; }

 private:
  void open(const ContextRequest& request);
  void close();

  bool is_counted_ = false;  ///< Whether this is the one.
  void* display_ = nullptr;
  void* context_ = nullptr;
  DeviceFacts facts_;
  std::int64_t max_storage_bytes_ = 0;
  bool pretend_lost_ = false;
};

}  // namespace mileage::device
