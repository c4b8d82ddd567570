#include "measure/child_process.h"

#include <fcntl.h>
#include <poll.h>
#include <spawn.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstring>
#include <sstream>
#include <utility>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "measure/process_facts.h"
#include "measure/visit_protocol.h"

extern char** environ;

namespace mileage {
namespace {

constexpr int child_reads_at = 3;
constexpr int child_writes_at = 4;
constexpr std::size_t last_words_kept = 4096;
constexpr std::size_t most_output = std::size_t{64} << 20U;
constexpr std::size_t last_lines_told = 3;

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

/// What a child gets in place of this process's descriptors.
class FileActions {
 public:
  FileActions() { posix_spawn_file_actions_init(&actions_); }
  ~FileActions() { posix_spawn_file_actions_destroy(&actions_); }
  FileActions(const FileActions&) = delete;
  FileActions& operator=(const FileActions&) = delete;

  void nothing_at(int place, int mode) { posix_spawn_file_actions_addopen(&actions_, place, "/dev/null", mode, 0); }
  void put(const Descriptor& descriptor, int place) { posix_spawn_file_actions_adddup2(&actions_, descriptor.number(), place); }
  void run_in(const std::filesystem::path& folder) {
    if (!folder.empty()) posix_spawn_file_actions_addchdir_np(&actions_, folder.c_str());
  }
  const posix_spawn_file_actions_t* get() const { return &actions_; }

 private:
  posix_spawn_file_actions_t actions_;
};

/// Pointers to texts, as C wants lists of them.
std::vector<char*> pointers_to(std::vector<std::string>& texts) {
  std::vector<char*> pointers;
  for (std::string& text : texts) pointers.push_back(text.data());
  pointers.push_back(nullptr);
  return pointers;
}

/// Starts in a process group of its own. Returns 0 or why it could not be started.
int spawn(std::vector<std::string> words, const FileActions& actions, char* const* environment, pid_t& pid) {
  posix_spawnattr_t attributes;
  posix_spawnattr_init(&attributes);
  posix_spawnattr_setflags(&attributes, POSIX_SPAWN_SETPGROUP);
  posix_spawnattr_setpgroup(&attributes, 0);
  const std::vector<char*> arguments = pointers_to(words);
  const int refused = ::posix_spawnp(&pid, words.front().c_str(), actions.get(), &attributes, arguments.data(), environment);
  posix_spawnattr_destroy(&attributes);
  return refused;
}

Child start(const std::filesystem::path& program) {
  Pipe request = make_pipe();
  Pipe answer = make_pipe();
  Pipe errors = make_pipe();
  Child child;
  if (errors.write.is_open()) {
    FileActions actions;
    actions.nothing_at(STDIN_FILENO, O_RDONLY);
    actions.nothing_at(STDOUT_FILENO, O_WRONLY);
    actions.put(errors.write, STDERR_FILENO);
    actions.put(request.read, child_reads_at);
    actions.put(answer.write, child_writes_at);
    child.refused = spawn({std::filesystem::absolute(program).string(), visit_argument, fmt::format("{},{},{}", child_reads_at, child_writes_at, ::getpid())}, actions, environ, child.pid);
  } else {
    child.refused = EMFILE;
  }
  child.request = std::move(request.write);
  child.answer = std::move(answer.read);
  child.errors = std::move(errors.read);
  return child;
}

/// This process's environment with some of it set otherwise.
std::vector<std::string> environment_with(const std::map<std::string, std::string>& set) {
  std::vector<std::string> all;
  for (char** entry = environ; *entry != nullptr; ++entry) {
    const std::string text = *entry;
    if (set.count(text.substr(0, text.find('='))) == 0) all.push_back(text);
  }
  for (const auto& [name, value] : set) all.push_back(name + "=" + value);
  return all;
}

Child start(const Command& command) {
  Pipe output = make_pipe();
  Pipe errors = make_pipe();
  Child child;
  if (errors.write.is_open()) {
    FileActions actions;
    actions.nothing_at(STDIN_FILENO, O_RDONLY);
    actions.put(output.write, STDOUT_FILENO);
    actions.put(errors.write, STDERR_FILENO);
    actions.run_in(command.directory);
    std::vector<std::string> environment = environment_with(command.environment);
    child.refused = spawn(command.words, actions, pointers_to(environment).data(), child.pid);
  } else {
    child.refused = EMFILE;
  }
  child.answer = std::move(output.read);
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
    if (answer.size() > most_output) answer.resize(most_output);
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

/// "took longer than its limit of 10 s", "was ended by SIGSEGV (Segmentation fault)", "ended with exit code 3".
std::string worded_end(Listened listened, int status, const Limits& limits) {
  if (listened == Listened::out_of_time) return fmt::format("took longer than its limit of {:.3g} s", limits.time_s);
  if (listened == Listened::out_of_memory) return fmt::format("used more memory than its limit of {:.3g} GB", limits.memory_bytes * 1e-9);
  if (WIFSIGNALED(status)) return "was ended by " + signal_name(WTERMSIG(status));
  return fmt::format("ended with exit code {}", WEXITSTATUS(status));
}

int wait_for(pid_t pid, rusage& used) {
  int status = 0;
  while (::wait4(pid, &status, 0, &used) < 0 && errno == EINTR) {
  }
  return status;
}

/// Whether a child ends within a time; it is left to be waited for.
bool ends_within(pid_t pid, double seconds) {
  const auto start = std::chrono::steady_clock::now();
  siginfo_t info{};
  while (::waitid(P_PID, static_cast<id_t>(pid), &info, WEXITED | WNOHANG | WNOWAIT) == 0 && info.si_pid == 0) {
    if (std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count() >= seconds) return false;
    ::poll(nullptr, 0, 1);
  }
  return true;
}

/// The last lines of a text, joined.
std::string last_lines(const std::string& text) {
  std::vector<std::string> lines;
  std::istringstream stream(text);
  for (std::string line; std::getline(stream, line);)
    if (line.find_first_not_of(" \t\r") != std::string::npos) lines.push_back(line);
  if (lines.size() > last_lines_told) lines.erase(lines.begin(), lines.end() - last_lines_told);
  return fmt::format("{}", fmt::join(lines, " / "));
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
  rusage used{};
  const int status = wait_for(child.pid, used);

  exchange.last_words = last_line(std::move(errors));
  const bool complete = !exchange.answer.empty() && exchange.answer.back() == '\n';
  if (complete)
    exchange.answer.pop_back();
  else
    exchange.failure = "the visit " + worded_end(listened, status, limits) + (listened == Listened::to_the_end && !WIFSIGNALED(status) ? " before its record was complete" : "");
  if (!complete) exchange.answer.clear();
  return exchange;
}

Ended run_command(const Command& command, const Limits& limits) {
  Ended ended;
  Child child = start(command);
  if (child.refused != 0) {
    ended.failure = fmt::format("could not be started: {}", std::strerror(child.refused));
    return ended;
  }
  std::string errors;
  const Listened listened = listen(child, limits, ended.output, errors);
  // A child that closed its streams early may still be at work: it gets the rest of its time.
  const bool is_done = listened == Listened::to_the_end && ends_within(child.pid, limits.time_s);
  ::kill(-child.pid, SIGKILL);
  rusage used{};
  const int status = wait_for(child.pid, used);
  ended.peak_bytes = static_cast<double>(used.ru_maxrss) * 1024;
  ended.last_words = last_lines(errors);
  if (ended.last_words.empty()) ended.last_words = last_lines(ended.output);
  if (!is_done || status != 0) ended.failure = worded_end(listened == Listened::to_the_end && !is_done ? Listened::out_of_time : listened, status, limits);
  return ended;
}

}  // namespace mileage
