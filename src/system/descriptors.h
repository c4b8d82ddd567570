// File descriptors: owned ones, pipes, and writing to them.
#pragma once

#include <string_view>
#include <utility>

namespace mileage {

/// A descriptor that closes itself; -1 is none.
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

/// Two ends of a channel, both closed on exec and numbered from 10, so that range finding one at a low number never
/// hits another.
struct Channel {
  Descriptor read;
  Descriptor write;
  bool is_open() const { return read.is_open() && write.is_open(); }
};
/// Without its ends when the system has none left.
Channel make_pipe();

/// Writes all of it, whatever interrupts; false when the other end takes no more (errno says why).
bool write_all(int descriptor, std::string_view text);

/// Opens /dev/null in place of a closed standard input, output or error, so that no file that is opened later takes
/// that number and gets what was meant for people.
void open_standard_descriptors();

/// While it lives, writing to a pipe that nobody reads fails with EPIPE and does not end this process. Of the calling
/// thread alone.
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
