#include "system/descriptors.h"

#include <fcntl.h>
#include <unistd.h>

#include <cerrno>
#include <csignal>
#include <ctime>

namespace mileage {
namespace {

constexpr int lowest_number = 10;

Descriptor moved_up(int low) {
  const int high = ::fcntl(low, F_DUPFD_CLOEXEC, lowest_number);
  ::close(low);
  return Descriptor(high);
}

sigset_t only_broken_pipe() {
  sigset_t signals;
  sigemptyset(&signals);
  sigaddset(&signals, SIGPIPE);
  return signals;
}

}  // namespace

void Descriptor::close() {
  if (number_ >= 0) ::close(number_);
  number_ = -1;
}

Channel make_pipe() {
  int ends[2] = {-1, -1};
  if (::pipe2(ends, O_CLOEXEC) != 0) return {};
  return {moved_up(ends[0]), moved_up(ends[1])};
}

bool write_all(int descriptor, std::string_view text) {
  while (!text.empty()) {
    const ssize_t written = ::write(descriptor, text.data(), text.size());
    if (written < 0 && errno == EINTR) continue;
    if (written <= 0) return false;
    text.remove_prefix(static_cast<std::size_t>(written));
  }
  return true;
}

void open_standard_descriptors() {
  // open() uses the lowest free number.
  for (int number = ::open("/dev/null", O_RDWR); number >= 0; number = ::open("/dev/null", O_RDWR))
    if (number > STDERR_FILENO) {
      ::close(number);
      return;
    }
}

BrokenPipeGuard::BrokenPipeGuard() {
  const sigset_t signals = only_broken_pipe();
  sigset_t before;
  pthread_sigmask(SIG_BLOCK, &signals, &before);
  was_blocked_ = sigismember(&before, SIGPIPE) == 1;
}

BrokenPipeGuard::~BrokenPipeGuard() {
  if (was_blocked_) return;
  const sigset_t signals = only_broken_pipe();
  const timespec at_once{};
  while (sigtimedwait(&signals, nullptr, &at_once) > 0) {}
  pthread_sigmask(SIG_UNBLOCK, &signals, nullptr);
}

}  // namespace mileage
