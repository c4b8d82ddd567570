// Lines to and from a running program, over a socket or a pair of pipes.
#pragma once

#include <optional>
#include <string>

namespace mileage {

class LineChannel {
 public:
  virtual ~LineChannel() = default;

  /// Sends a line; false when nobody is at the other end any more. `line` holds no line feed.
  virtual bool send(const std::string& line) = 0;
  /// The next line, without its end; nothing when none came within `seconds`, when this process is asked to stop, when
  /// the other end is gone, and from a line beyond longest_line on.
  virtual std::optional<std::string> receive(double seconds) = 0;
  /// Whether a line beyond longest_line came, so that no further one is read.
  virtual bool is_flooded() const { return false; }
  /// Whether the other end is gone, or was hung up on.
  virtual bool is_closed() const = 0;
  virtual void hang_up() = 0;
};

/// Bytes of the longest line that is read.
inline constexpr std::size_t longest_line = std::size_t{4} << 20U;

/// Over descriptors that it owns, or over those of standard input and output, which it leaves open.
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
  std::string read_;  ///< What came and is no whole line yet.
};

/// A socket that waits for one program. "127.0.0.1:7300"; a port of 0 takes a free one.
class Listening {
 public:
  /// Throws Error (usage) for an address that does not read, (cannot write) for one that cannot be listened on.
  explicit Listening(const std::string& address);
  ~Listening();
  Listening(const Listening&) = delete;
  Listening& operator=(const Listening&) = delete;

  int port() const { return port_; }
  /// Whether only programs of this machine can reach it.
  bool is_local() const { return local_; }
  /// Waits for a program; nothing when none came within `seconds` or `stop` says so. Others wait in line during that
  /// time.
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
