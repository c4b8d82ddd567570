#include "measure/machine/thread_waits.h"

#include <cstdio>
#include <filesystem>

#include <fcntl.h>
#include <unistd.h>

namespace mileage {
namespace {

int opened(const std::filesystem::path& of_thread) {
  return ::open((of_thread / "schedstat").c_str(), O_RDONLY | O_CLOEXEC);
}

/// Second of: time running, time runnable but waiting, number of slices.
std::optional<std::int64_t> waited(int file) {
  char text[128];
  const ssize_t size = ::pread(file, text, sizeof text - 1, 0);
  if (size <= 0) return std::nullopt;
  text[size] = '\0';
  long long ran = 0, ready = 0;
  if (std::sscanf(text, "%lld %lld", &ran, &ready) != 2) return std::nullopt;
  return ready;
}

}  // namespace

ThreadWaits::ThreadWaits(bool of_all) {
  if (!of_all) {
    files_.push_back(opened("/proc/thread-self"));
    return;
  }
  std::error_code failed;
  for (const auto& thread : std::filesystem::directory_iterator("/proc/self/task", failed))
    files_.push_back(opened(thread.path()));
}

ThreadWaits::~ThreadWaits() {
  for (const int file : files_)
    if (file >= 0) ::close(file);
}

std::optional<std::int64_t> ThreadWaits::waited_ns() const {
  std::optional<std::int64_t> sum;
  for (const int file : files_)
    if (const auto one = file >= 0 ? waited(file) : std::nullopt) sum = sum.value_or(0) + *one;
  return sum;
}

}  // namespace mileage
