// OpenGL 4.5 core without a display (surfaceless EGL).
#pragma once

#include <cstdint>
#include <string>

namespace mileage::device {

struct DeviceFacts {
  std::string name;  ///< As named by the driver.
  std::string driver;
  bool software = false;  ///< Rasterises on the processor.
};

/// Non-default values are for tests.
struct ContextRequest {
  const char* egl_library = "libEGL.so.1";
  int major = 4;
  int minor = 5;
};

/// Current on its thread until destroyed. Only one at a time: another throws Error. Tens of milliseconds.
class Context {
 public:
  /// Throws Error (variant): no library, no device, old version, refusal.
  explicit Context(const ContextRequest& request = {});
  ~Context();
  Context(const Context&) = delete;
  Context& operator=(const Context&) = delete;

  const DeviceFacts& facts() const { return facts_; }
  /// In bytes.
  std::int64_t max_storage_bytes() const { return max_storage_bytes_; }

  /// Throws Error (variant) if the device was lost or reported an error.
  void check() const;
  /// For tests.
  void pretend_lost() { pretend_lost_ = true; }

 private:
  void open(const ContextRequest& request);
  void close();

  bool is_counted_ = false;
  void* display_ = nullptr;
  void* context_ = nullptr;
  DeviceFacts facts_;
  std::int64_t max_storage_bytes_ = 0;
  bool pretend_lost_ = false;
};

}  // namespace mileage::device
