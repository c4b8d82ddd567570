#include "measure/child_process.h"

#include <fcntl.h>
#include <poll.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstring>

#include <utility>

#include <fmt/format.h>

#include "measure/process_facts.h"
#include "measure/visit_protocol.h"

extern char** environ;

namespace mileage {
namespace {

constexpr int child_reads_at = 3;
constexpr int child_writes_at = 4;
constexpr std::size_t last_words_kept = 4096;

/// A descriptor that closes itself.
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
  void close() {
    if (number_ >= 0) ::close(number_);
    number_ = -1;
  }
  int number() const { return number_; }
  bool is_open() const { return number_ >= 0; }

 private:
  int number_ = -1;
};

struct Pipe {
  Descriptor read;
  Descriptor write;
};

/// Both ends lie above the descriptors that the child gets its own on, so that placing one never hits another.
Pipe make_pipe() {
  int ends[2] = {-1, -1};
  if (::pipe2(ends, O_CLOEXEC) != 0) return {};
  const auto move_up = [](int low) {
    const int high = ::fcntl(low, F_DUPFD_CLOEXEC, 10);
    ::close(low);
    return Descriptor(high);
  };
  return {move_up(ends[0]), move_up(ends[1])};
}

struct Child {
  pid_t pid = -1;
  Descriptor request;
  Descriptor answer;
  Descriptor errors;
  int refused = 0;  // errno of a start that failed
};

int spawn(const std::filesystem::path& program, const Pipe& request, const Pipe& answer, const Pipe& errors, pid_t& pid) {
  posix_spawn_file_actions_t actions;
  posix_spawn_file_actions_init(&actions);
  posix_spawn_file_actions_addopen(&actions, STDIN_FILENO, "/dev/null", O_RDONLY, 0);
  posix_spawn_file_actions_addopen(&actions, STDOUT_FILENO, "/dev/null", O_WRONLY, 0);
  posix_spawn_file_actions_adddup2(&actions, errors.write.number(), STDERR_FILENO);
  posix_spawn_file_actions_adddup2(&actions, request.read.number(), child_reads_at);
  posix_spawn_file_actions_adddup2(&actions, answer.write.number(), child_writes_at);

  posix_spawnattr_t attributes;
  posix_spawnattr_init(&attributes);
  posix_spawnattr_setflags(&attributes, POSIX_SPAWN_SETPGROUP);
  posix_spawnattr_setpgroup(&attributes, 0);

  std::string path = program.string();
  std::string first = visit_argument;
  std::string second = fmt::format("{},{},{}", child_reads_at, child_writes_at, ::getpid());
  std::array<char*, 4> arguments{path.data(), first.data(), second.data(), nullptr};
  const int refused = ::posix_spawn(&pid, path.c_str(), &actions, &attributes, arguments.data(), environ);
  posix_spawnattr_destroy(&attributes);
  posix_spawn_file_actions_destroy(&actions);
  return refused;
}

Child start(const std::filesystem::path& program) {
  Pipe request = make_pipe();
  Pipe answer = make_pipe();
  Pipe errors = make_pipe();
  Child child;
  child.refused = errors.write.is_open() ? spawn(program, request, answer, errors, child.pid) : EMFILE;
  child.request = std::move(request.write);
  child.answer = std::move(answer.read);
  child.errors = std::move(errors.read);
  return child;
}

/// A child that dies before it has read its request must not end this process.
void send(Descriptor& to, const std::string& line) {
  sigset_t broken_pipe, before;
  sigemptyset(&broken_pipe);
  sigaddset(&broken_pipe, SIGPIPE);
  pthread_sigmask(SIG_BLOCK, &broken_pipe, &before);
  const std::string text = line + "\n";
  for (std::size_t done = 0; done < text.size();) {
    const ssize_t written = ::write(to.number(), text.data() + done, text.size() - done);
    if (written <= 0) break;
    done += static_cast<std::size_t>(written);
  }
  const timespec at_once{};
  while (sigtimedwait(&broken_pipe, nullptr, &at_once) > 0) {
  }
  pthread_sigmask(SIG_SETMASK, &before, nullptr);
  to.close();
}

/// Reads what is there; closes at the end of the stream.
void take(Descriptor& from, std::string& into) {
  char buffer[65536];
  const ssize_t got = ::read(from.number(), buffer, sizeof buffer);
  if (got > 0) into.append(buffer, static_cast<std::size_t>(got));
  if (got == 0 || (got < 0 && errno != EINTR)) from.close();
}

/// How listening to a child ended.
enum class Listened { to_the_end, out_of_time, out_of_memory };

constexpr int milliseconds_between_looks = 100;

/// Reads answer and errors until both streams have ended or a limit is passed.
Listened listen(Child& child, const Limits& limits, std::string& answer, std::string& errors) {
  const auto start = std::chrono::steady_clock::now();
  while (child.answer.is_open() || child.errors.is_open()) {
    pollfd streams[2] = {{child.answer.number(), POLLIN, 0}, {child.errors.number(), POLLIN, 0}};
    const int ready = ::poll(streams, 2, milliseconds_between_looks);
    if (std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count() >= limits.time_s)
      return Listened::out_of_time;
    if (limits.memory_bytes > 0 && resident_bytes_of(child.pid) > limits.memory_bytes) return Listened::out_of_memory;
    if (ready <= 0) continue;
    if (child.answer.is_open() && streams[0].revents != 0) take(child.answer, answer);
    if (child.errors.is_open() && streams[1].revents != 0) take(child.errors, errors);
    if (errors.size() > last_words_kept) errors.erase(0, errors.size() - last_words_kept);
  }
  return Listened::to_the_end;
}

std::string last_line(std::string text) {
  while (!text.empty() && std::isspace(static_cast<unsigned char>(text.back()))) text.pop_back();
  const auto feed = text.find_last_of('\n');
  return feed == std::string::npos ? text : text.substr(feed + 1);
}

std::string signal_name(int signal) {
  const char* name = ::sigabbrev_np(signal);
  return fmt::format("SIG{} ({})", name != nullptr ? name : std::to_string(signal), ::sigdescr_np(signal));
}

std::string worded_end(Listened listened, int status, const Limits& limits) {
  if (listened == Listened::out_of_time) return fmt::format("the visit took longer than its limit of {:.3g} s", limits.time_s);
  if (listened == Listened::out_of_memory)
    return fmt::format("the visit used more memory than its limit of {:.3g} GB", limits.memory_bytes * 1e-9);
  if (WIFSIGNALED(status)) return "the visit was ended by " + signal_name(WTERMSIG(status));
  return fmt::format("the visit ended with exit code {} before its record was complete", WEXITSTATUS(status));
}

int wait_for(pid_t pid) {
  int status = 0;
  while (::waitpid(pid, &status, 0) < 0 && errno == EINTR) {
  }
  return status;
}

}  // namespace

Exchange ask_program(const std::filesystem::path& program, const std::string& line, const Limits& limits) {
  Exchange exchange;
  Child child = start(program);
  if (child.refused != 0) {
    exchange.failure = fmt::format("{} could not be started: {}", program.filename().string(), std::strerror(child.refused));
    return exchange;
  }
  send(child.request, line);

  std::string errors;
  const Listened listened = listen(child, limits, exchange.answer, errors);
  ::kill(-child.pid, SIGKILL);  // whatever is left of the group; the child itself has closed its streams
  const int status = wait_for(child.pid);

  exchange.last_words = last_line(std::move(errors));
  const bool complete = !exchange.answer.empty() && exchange.answer.back() == '\n';
  if (complete)
    exchange.answer.pop_back();
  else
    exchange.failure = worded_end(listened, status, limits);
  if (!complete) exchange.answer.clear();
  return exchange;
}

}  // namespace mileage
