#pragma once

#include <string_view>
#include <utility>

namespace mileage {

/// Owns a descriptor; -1 for none.
class Descriptor {
 public:
  Descriptor() = default;
  explicit Descriptor(int number) : number_(number) {}
  Descriptor(Descriptor&& other) noexcept : number_(std::exchange(other.number_, -1)) {}
  Descriptor& operator=(Descriptor&& other) noexcept {
    std::swap(number_, other.number_);
    return *this;
  }
  ~Descriptor() { close(); }
  void close();
  int number() const { return number_; }
  bool is_open() const { return number_ >= 0; }

 private:
  int number_ = -1;
};

/// Close-on-exec and numbered from 10, away from 0 to 9 of children.
struct Channel {
  Descriptor read;
  Descriptor write;
  bool is_open() const { return read.is_open() && write.is_open(); }
};
/// Empty on failure.
Channel make_pipe();

/// Retries on EINTR; false on failure (errno).
bool write_all(int descriptor, std::string_view text);

/// Replaces closed standard streams by /dev/null, so that no file takes their numbers.
void open_standard_descriptors();

/// Turns SIGPIPE into EPIPE on the calling thread.
class BrokenPipeGuard {
 public:
  BrokenPipeGuard();
  ~BrokenPipeGuard();
  BrokenPipeGuard(const BrokenPipeGuard&) = delete;
  BrokenPipeGuard& operator=(const BrokenPipeGuard&) = delete;

 private:
  bool was_blocked_ = false;
};

}  // namespace mileage
