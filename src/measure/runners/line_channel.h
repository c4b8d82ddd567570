// Lines to and from a running program, over a socket or pipes.
#pragma once

#include <optional>
#include <string>

namespace mileage {

class LineChannel {
 public:
  virtual ~LineChannel() = default;

  /// `line` without line feed; false if the other end is gone.
  virtual bool send(const std::string& line) = 0;
  /// Without its end. Nothing on timeout, stop request, closed end or an overlong line.
  virtual std::optional<std::string> receive(double seconds) = 0;
  /// After a line beyond longest_line; nothing more is read.
  virtual bool is_flooded() const { return false; }
  virtual bool is_closed() const = 0;
  virtual void hang_up() = 0;
};

/// Bytes.
inline constexpr std::size_t longest_line = std::size_t{4} << 20U;

/// Owns its descriptors; leaves standard input and output open.
class DescriptorChannel : public LineChannel {
 public:
  DescriptorChannel(int in, int out, bool owns) : in_(in), out_(out), owns_(owns) {}
  ~DescriptorChannel() override { hang_up(); }
  DescriptorChannel(const DescriptorChannel&) = delete;
  DescriptorChannel& operator=(const DescriptorChannel&) = delete;

  bool send(const std::string& line) override;
  std::optional<std::string> receive(double seconds) override;
  bool is_closed() const override { return in_ < 0; }
  bool is_flooded() const override { return is_flooded_; }
  void hang_up() override;

 private:
  std::optional<std::string> take_line();

  int in_;
  int out_;
  bool owns_;
  bool is_flooded_ = false;
  std::string read_;  ///< Partial line.
};

/// Waits for one program at "127.0.0.1:7300"; port 0 takes a free one.
class Listening {
 public:
  /// Throws Error: usage (bad address), cannot write (cannot listen).
  explicit Listening(const std::string& address);
  ~Listening();
  Listening(const Listening&) = delete;
  Listening& operator=(const Listening&) = delete;

  int port() const { return port_; }
  /// Reachable from this machine only.
  bool is_local() const { return local_; }
  /// Nothing on timeout or if `stop` says so. Further programs queue.
  template <class Stop>
  std::optional<int> accept(double seconds, const Stop& stop) {
    for (double waited_s = 0; waited_s < seconds && !stop(); waited_s += step_s)
      if (const auto socket = accept_within(step_s)) return socket;
    return std::nullopt;
  }

 private:
  static constexpr double step_s = 0.1;
  std::optional<int> accept_within(double seconds);

  int socket_ = -1;
  int port_ = 0;
  bool local_ = true;
};

}  // namespace mileage
