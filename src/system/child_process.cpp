#include "system/child_process.h"

#include <fcntl.h>
#include <poll.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstring>
#include <sstream>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "system/descriptors.h"
#include "system/keeper.h"
#include "system/process_tree.h"
#include "system/stop_signals.h"

extern char** environ;

namespace mileage {
namespace {

constexpr std::size_t errors_kept = 4096;
constexpr std::size_t max_kept = std::size_t{64} << 20U;
constexpr int ms_between_looks = 100;
constexpr double linger_s = 2;
/// For a nearly complete run after a stop request, or an unwanted child.
constexpr double stop_grace_s = 1;
constexpr double unwanted_grace_s = 0.5;
constexpr double keeper_limit_s = 8;

double seconds_since(std::chrono::steady_clock::time_point start) {
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

/// For C.
std::vector<char*> pointers_to(std::vector<std::string>& texts) {
  std::vector<char*> pointers;
  for (std::string& text : texts) pointers.push_back(text.data());
  pointers.push_back(nullptr);
  return pointers;
}

/// With changes.
std::vector<std::string> environment_with(const std::map<std::string, std::string>& set) {
  std::vector<std::string> all;
  for (char** entry = environ; *entry != nullptr; ++entry) {
    const std::string text = *entry;
    if (set.count(text.substr(0, text.find('='))) == 0) all.push_back(text);
  }
  for (const auto& [name, value] : set) all.push_back(name + "=" + value);
  return all;
}

std::string value_in(const std::vector<std::string>& environment, const std::string& name) {
  for (const std::string& entry : environment)
    if (entry.rfind(name + "=", 0) == 0) return entry.substr(name.size() + 1);
  return {};
}

/// Empty if not found.
std::string found_in_path(const std::string& name, const std::vector<std::string>& environment) {
  if (name.find('/') != std::string::npos) return name;
  std::istringstream folders(value_in(environment, "PATH"));
  for (std::string folder; std::getline(folders, folder, ':');) {
    const std::string path = (folder.empty() ? "." : folder) + "/" + name;
    std::error_code no_error;
    if (::access(path.c_str(), X_OK) == 0 && std::filesystem::is_regular_file(path, no_error)) return path;
  }
  return {};
}

void cut_front(std::string& text, std::size_t max) {
  if (text.size() > max) text.erase(0, text.size() - max);
}

class Running {
 public:
  Running(const Command& command, const Limits& limits, const Streams& streams) : limits_(limits) {
    if (streams.request) request_ = *streams.request + "\n";
    start(command, streams);
  }

  ChildReport end() {
    while (keeper_ > 0 && !has_ended_) listen_once();
    take_what_is_there();
    see_keeper_off();
    return std::move(report_);
  }

 private:
  void start(const Command& command, const Streams& streams) {
    Channel request = make_pipe(), reply = make_pipe(), output = make_pipe(), errors = make_pipe(),
            status = make_pipe(), lifeline = make_pipe();
    report_.code = EMFILE;
    for (const Channel* channel : {&request, &reply, &output, &errors, &status, &lifeline})
      if (!channel->is_open()) return;
    std::vector<std::string> words = command.words;
    std::vector<std::string> environment = environment_with(command.environment);
    const std::string program = found_in_path(words.front(), environment);
    const std::string directory = command.directory.string();
    const std::vector<char*> word_pointers = pointers_to(words);
    const std::vector<char*> environment_pointers = pointers_to(environment);
    KeptChild child;
    child.program = program.c_str();
    child.words = word_pointers.data();
    child.environment = environment_pointers.data();
    child.directory = directory.empty() ? nullptr : directory.c_str();
    if (streams.request) child.request = request.read.number();
    if (streams.request) child.reply = reply.write.number();
    const Descriptor socket(streams.socket);
    const Descriptor socket_again(streams.socket >= 0 ? ::fcntl(streams.socket, F_DUPFD_CLOEXEC, 10) : -1);
    if (socket.is_open()) child.request = socket.number();
    if (socket.is_open()) child.reply = socket_again.number();
    if (streams.output) child.output = output.write.number();
    child.errors = errors.write.number();
    keeper_ = start_keeper(child, status.write.number(), lifeline.read.number());
    report_.code = keeper_ < 0 ? errno : 0;
    if (keeper_ < 0) return;
    for (Channel* channel : {&reply, &output, &errors, &status}) ::fcntl(channel->read.number(), F_SETFL, O_NONBLOCK);
    ::fcntl(request.write.number(), F_SETFL, O_NONBLOCK);
    if (streams.request) request_to_ = std::move(request.write);
    if (streams.request) reply_from_ = std::move(reply.read);
    if (streams.output) output_from_ = std::move(output.read);
    errors_from_ = std::move(errors.read);
    status_from_ = std::move(status.read);
    lifeline_ = std::move(lifeline.write);
  }

  void listen_once() {
    pollfd streams[] = {{status_from_.number(), POLLIN, 0},
                        {reply_from_.number(), POLLIN, 0},
                        {output_from_.number(), POLLIN, 0},
                        {errors_from_.number(), POLLIN, 0},
                        {request_to_.number(), POLLOUT, 0}};
    ::poll(streams, sizeof streams / sizeof *streams, ms_between_looks);
    if (streams[4].revents != 0) send();
    take_what_is_there();
    if (streams[0].revents != 0) hear_keeper();
    if (!has_ended_) hold_to_limits();
  }

  /// SIGPIPE must not end this process.
  void send() {
    const BrokenPipeGuard guard;
    const ssize_t written = ::write(request_to_.number(), request_.data() + sent_, request_.size() - sent_);
    if (written > 0) sent_ += static_cast<std::size_t>(written);
    if ((written < 0 && errno != EAGAIN && errno != EINTR) || sent_ == request_.size()) request_to_.close();
  }

  void take_what_is_there() {
    take(reply_from_, report_.reply);
    take(output_from_, report_.output);
    take(errors_from_, report_.errors);
    cut_front(report_.errors, errors_kept);
    if (!replied_ && !report_.reply.empty() && report_.reply.back() == '\n')
      replied_ = std::chrono::steady_clock::now();
  }

  /// Limited per call, so that endless output does not hide the deadline.
  static void take(Descriptor& from, std::string& into) {
    constexpr int reads_at_once = 16;
    char buffer[65536];
    for (int i = 0; i < reads_at_once && from.is_open(); ++i) {
      const ssize_t got = ::read(from.number(), buffer, sizeof buffer);
      if (got > 0)
        into.append(buffer, std::min(static_cast<std::size_t>(got), max_kept - std::min(max_kept, into.size())));
      if (got == 0 || (got < 0 && errno != EINTR && errno != EAGAIN)) from.close();
      if (got < 0) return;
    }
  }

  void hear_keeper() {
    KeeperMessage message;
    const ssize_t got = ::read(status_from_.number(), &message, sizeof message);
    if (got < 0) return;
    if (got != sizeof message) {  // The keeper was killed, and the child with it.
      if (!is_told_) report_.ending = ChildEnding::by_signal;
      if (!is_told_) report_.code = SIGKILL;
      has_ended_ = true;
      return;
    }
    switch (message.kind) {
      case KeeperMessage::started:
        child_ = message.value;
        floor_kb_ = message.used.ru_maxrss;
        if (!is_told_) report_.ending = ChildEnding::exited;  // The child may have reported a failed start first.
        break;
      case KeeperMessage::refused:
        report_.ending = ChildEnding::not_started;
        report_.code = message.value;
        is_told_ = true;
        break;
      case KeeperMessage::ended:
        note_end(message);
        break;
      case KeeperMessage::done:
        report_.left_behind = message.value;
        break;
    }
    has_ended_ = has_ended_ || message.kind == KeeperMessage::ended || message.kind == KeeperMessage::done;
  }

  void note_end(const KeeperMessage& message) {
    if (report_.ending == ChildEnding::not_started) return;
    const auto seconds = [](const timeval& time) {
      return static_cast<double>(time.tv_sec) + static_cast<double>(time.tv_usec) * 1e-6;
    };
    ResourcesUsed used{seconds(message.used.ru_utime) + seconds(message.used.ru_stime), {}};
    if (message.used.ru_maxrss > floor_kb_) used.peak_bytes = static_cast<double>(message.used.ru_maxrss) * 1024;
    report_.used = used;
    if (is_told_) return;
    const bool by_signal = WIFSIGNALED(message.value);
    report_.ending = by_signal ? ChildEnding::by_signal : ChildEnding::exited;
    report_.code = by_signal ? WTERMSIG(message.value) : WEXITSTATUS(message.value);
  }

  void hold_to_limits() {
    if (!lifeline_.is_open()) {
      if (seconds_since(told_at_) > keeper_limit_s) has_ended_ = true;
      return;
    }
    if (replied_ && seconds_since(*replied_) > linger_s) {
      report_.lingered = true;
      return tell(ChildEnding::exited);
    }
    if (seconds_since(start_) >= limits_.time_s) return tell(ChildEnding::out_of_time);
    if (is_over(limits_.heeds_stop && is_stop_asked(), stop_asked_at_, stop_grace_s) ||
        is_over(limits_.control != nullptr && limits_.control->is_unwanted, unwanted_at_, unwanted_grace_s))
      return tell(ChildEnding::stopped);
    if (watches_memory() && resident_bytes_below(keeper_, limits_.memory_bytes) > limits_.memory_bytes)
      tell(ChildEnding::out_of_memory);
  }

  bool watches_memory() const {
    return limits_.memory_bytes > 0 && child_ > 0 && (limits_.control == nullptr || limits_.control->watches_memory);
  }

  /// `since`: when the condition was first seen.
  static bool is_over(bool holds, std::optional<std::chrono::steady_clock::time_point>& since, double grace_s) {
    if (holds && !since) since = std::chrono::steady_clock::now();
    return holds && seconds_since(*since) > grace_s;
  }

  void tell(ChildEnding why) {
    if (report_.ending == ChildEnding::not_started && child_ <= 0) has_ended_ = true;
    report_.ending = why;
    report_.code = 0;
    is_told_ = true;
    told_at_ = std::chrono::steady_clock::now();
    lifeline_.close();
  }

  /// Remaining processes are ended; a stuck keeper is abandoned.
  void see_keeper_off() {
    if (keeper_ <= 0) return;
    const auto start = std::chrono::steady_clock::now();
    while (seconds_since(start) < keeper_limit_s) {
      pollfd status{status_from_.number(), POLLIN, 0};
      if (::poll(&status, 1, ms_between_looks) <= 0) continue;
      KeeperMessage message;
      const ssize_t got = ::read(status_from_.number(), &message, sizeof message);
      if (got == sizeof message && message.kind == KeeperMessage::ended) note_end(message);
      if (got == sizeof message && message.kind == KeeperMessage::done) report_.left_behind = message.value;
      if (got >= 0 && (got != sizeof message || message.kind == KeeperMessage::done)) break;
    }
    lifeline_.close();
    if (seconds_since(start) >= keeper_limit_s) ::kill(keeper_, SIGKILL);
    while (::waitpid(keeper_, nullptr, 0) < 0 && errno == EINTR) {}
  }

  const Limits& limits_;
  ChildReport report_;
  std::chrono::steady_clock::time_point start_ = std::chrono::steady_clock::now();
  std::chrono::steady_clock::time_point told_at_;
  std::optional<std::chrono::steady_clock::time_point> replied_, stop_asked_at_, unwanted_at_;
  std::string request_;
  std::size_t sent_ = 0;
  Descriptor request_to_, reply_from_, output_from_, errors_from_, status_from_, lifeline_;
  pid_t keeper_ = -1;
  pid_t child_ = -1;
  long floor_kb_ = 0;
  bool has_ended_ = false;
  bool is_told_ = false;  ///< Ending is decided, whatever its wait status.
};

std::string signal_name(int signal) {
  const char* name = ::sigabbrev_np(signal);
  const char* words = ::sigdescr_np(signal);
  return fmt::format("SIG{} ({})", name != nullptr ? name : std::to_string(signal),
                     words != nullptr ? words : "unknown signal");
}

}  // namespace

ChildReport run_child(const Command& command, const Limits& limits, const Streams& streams) {
  return Running(command, limits, streams).end();
}

std::string worded(const ChildReport& report, const Limits& limits) {
  switch (report.ending) {
    case ChildEnding::exited:
      return fmt::format("ended with exit code {}", report.code);
    case ChildEnding::by_signal:
      return "was ended by " + signal_name(report.code);
    case ChildEnding::out_of_time:
      return fmt::format("took longer than its limit of {:.3g} s", limits.time_s);
    case ChildEnding::out_of_memory:
      return fmt::format("used more memory than its limit of {:.3g} GB", limits.memory_bytes * 1e-9);
    case ChildEnding::stopped:
      return "was stopped";
    case ChildEnding::not_started:
      return fmt::format("could not be started: {}", std::strerror(report.code));
  }
  return {};
}

std::string last_lines(const std::string& text, std::size_t max) {
  std::vector<std::string> lines;
  std::istringstream stream(text);
  for (std::string line; std::getline(stream, line);)
    if (line.find_first_not_of(" \t\r") != std::string::npos) lines.push_back(line);
  if (lines.size() > max) lines.erase(lines.begin(), lines.end() - static_cast<std::ptrdiff_t>(max));
  return fmt::format("{}", fmt::join(lines, " / "));
}

}  // namespace mileage
