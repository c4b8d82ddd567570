#include "measure/runners/line_channel.h"

#include <arpa/inet.h>
#include <netinet/in.h>
#include <netinet/tcp.h>
#include <poll.h>
#include <sys/socket.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <cstring>

#include "system/descriptors.h"
#include "system/stop_signals.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

/// A signal just before poll is seen after this time.
constexpr double longest_poll_s = 0.1;

[[noreturn]] void refuse_address(const std::string& address) {
  throw Error({.kind = FaultKind::usage,
               .field = "listen",
               .problem = "not an address to listen on",
               .found = address,
               .accepted = "an IPv4 address and a port, such as 127.0.0.1:7300, or - for standard input and output"});
}

sockaddr_in socket_address(const std::string& address) {
  const auto colon = address.rfind(':');
  if (colon == std::string::npos) refuse_address(address);
  sockaddr_in place{};
  place.sin_family = AF_INET;
  if (::inet_pton(AF_INET, address.substr(0, colon).c_str(), &place.sin_addr) != 1) refuse_address(address);
  const std::string port = address.substr(colon + 1);
  if (port.empty() || port.size() > 5 || port.find_first_not_of("0123456789") != std::string::npos ||
      std::stoi(port) > 65'535)
    refuse_address(address);
  place.sin_port = htons(static_cast<std::uint16_t>(std::stoi(port)));
  return place;
}

}  // namespace

bool DescriptorChannel::send(const std::string& line) {
  if (is_closed()) return false;
  const BrokenPipeGuard guard;
  if (write_all(out_, line + "\n")) return true;
  hang_up();
  return false;
}

std::optional<std::string> DescriptorChannel::take_line() {
  const auto feed = read_.find('\n');
  if (feed == std::string::npos) return std::nullopt;
  std::string line = read_.substr(0, feed);
  read_.erase(0, feed + 1);
  if (!line.empty() && line.back() == '\r') line.pop_back();
  return line;
}

std::optional<std::string> DescriptorChannel::receive(double seconds) {
  const auto start = std::chrono::steady_clock::now();
  while (!is_closed() && !is_flooded_) {
    if (auto line = take_line()) return line;
    if (is_stop_asked()) return std::nullopt;
    const double left_s = seconds - std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    if (left_s <= 0) return std::nullopt;
    pollfd stream{in_, POLLIN, 0};
    if (::poll(&stream, 1, static_cast<int>(std::min(left_s, longest_poll_s) * 1000) + 1) <= 0) continue;
    char buffer[65536];
    const ssize_t got = ::read(in_, buffer, sizeof buffer);
    if (got > 0) read_.append(buffer, static_cast<std::size_t>(got));
    is_flooded_ = read_.size() > longest_line && read_.find('\n') > longest_line;
    if (got == 0 || (got < 0 && errno != EINTR)) hang_up();
  }
  return std::nullopt;
}

void DescriptorChannel::hang_up() {
  if (in_ >= 0 && owns_) ::close(in_);
  if (out_ != in_ && out_ >= 0 && owns_) ::close(out_);
  in_ = out_ = -1;
  read_.clear();
}

Listening::Listening(const std::string& address) {
  sockaddr_in place = socket_address(address);
  local_ = (ntohl(place.sin_addr.s_addr) >> 24U) == 127;
  const auto refuse = [&](const char* problem) {
    throw Error({.kind = FaultKind::cannot_write,
                 .field = "listen",
                 .problem = std::string(problem) + ": " + std::strerror(errno),
                 .found = address});
  };
  socket_ = ::socket(AF_INET, SOCK_STREAM | SOCK_CLOEXEC, 0);
  if (socket_ < 0) refuse("no socket can be made");
  const int yes = 1;
  ::setsockopt(socket_, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
  socklen_t size = sizeof place;
  if (::bind(socket_, reinterpret_cast<sockaddr*>(&place), size) != 0 || ::listen(socket_, 4) != 0 ||
      ::getsockname(socket_, reinterpret_cast<sockaddr*>(&place), &size) != 0) {
    ::close(socket_);
    refuse("this address cannot be listened on");
  }
  port_ = ntohs(place.sin_port);
}

Listening::~Listening() {
  if (socket_ >= 0) ::close(socket_);
}

std::optional<int> Listening::accept_within(double seconds) {
  pollfd stream{socket_, POLLIN, 0};
  if (::poll(&stream, 1, static_cast<int>(seconds * 1000)) <= 0) return std::nullopt;
  const int client = ::accept4(socket_, nullptr, nullptr, SOCK_CLOEXEC);
  if (client < 0) return std::nullopt;
  const int yes = 1;
  ::setsockopt(client, IPPROTO_TCP, TCP_NODELAY, &yes, sizeof yes);
  return client;
}

}  // namespace mileage
