#include "measure/runners/prepared_program.h"

#include <fcntl.h>
#include <poll.h>
#include <sys/prctl.h>
#include <sys/socket.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <csignal>
#include <cstdio>
#include <iterator>
#include <optional>
#include <set>
#include <system_error>
#include <thread>
#include <utility>

#include "measure/machine/process_facts.h"
#include "measure/runners/line_channel.h"
#include "measure/runners/runner.h"
#include "measure/runners/run_protocol.h"
#include "system/child_process.h"
#include "system/descriptors.h"
#include "system/process_tree.h"
#include "system/stop_signals.h"
#include "types/error.h"

namespace mileage {
namespace {

constexpr double whole_study_s = 1e7;
constexpr int copy_looked_at_every_ms = 100;
constexpr double left_behind_within_s = 10;
/// For processes left by a copy to end by themselves.
constexpr int grace_ms = 50;
constexpr std::size_t last_words_kept = 4096;

}  // namespace

/// The prepared process; a thread of ours waits for its end.
class PreparedProgram::Process {
 public:
  Process(const std::filesystem::path& program, double memory_limit_bytes) {
    limits_.memory_bytes = memory_limit_bytes;
    int ends[2] = {-1, -1};
    if (::socketpair(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0, ends) != 0) return;
    channel_ = std::make_unique<DescriptorChannel>(ends[0], ends[0], true);
    Command command;
    command.words = {std::filesystem::absolute(program).string(), run_argument, prepared_descriptor};
    waiting_ = std::thread([this, command, theirs = ends[1]] {
      Streams streams;
      streams.socket = theirs;
      streams.output = false;
      report_ = run_child(command, limits_, streams);
    });
  }
  ~Process() { end(); }

  bool send(const std::string& line) { return channel_ && channel_->send(line); }
  std::optional<std::string> receive(double seconds) { return channel_ ? channel_->receive(seconds) : std::nullopt; }
  bool is_gone() const { return !channel_ || channel_->is_closed(); }
  /// Copies then check their own memory limit.
  void leave_memory_to_copies() { control_.watches_memory = false; }
  /// Within a second.
  std::string end() {
    if (channel_) channel_->hang_up();
    control_.is_unwanted = true;
    if (waiting_.joinable()) waiting_.join();
    const std::string words = last_lines(report_.errors, 1);
    return worded(report_, limits_) + (words.empty() ? "" : "; last output: " + words);
  }

 private:
  ChildControl control_;
  Limits limits_{.time_s = whole_study_s, .heeds_stop = true, .control = &control_};
  std::unique_ptr<DescriptorChannel> channel_;
  ChildReport report_;
  std::thread waiting_;
};

PreparedProgram::PreparedProgram(std::filesystem::path program, const ProgramLimits& limits)
    : program_(std::move(program)), limits_(limits) {}

PreparedProgram::~PreparedProgram() = default;

/// If there is none, the process is gone.
ProgramAnswer PreparedProgram::hear(double seconds, const std::string& who) {
  if (auto answer = process_->receive(seconds)) return {std::move(*answer), "", 0};
  if (is_stop_asked()) throw Runner::Stopped{};
  const bool is_gone = process_->is_gone();
  const std::string ending = process_->end();
  process_.reset();
  const Limits limits{.time_s = seconds};
  return {"", who + (is_gone ? ending : worded({.ending = ChildEnding::out_of_time}, limits)), 0};
}

/// Empty on success.
std::string PreparedProgram::prepare(const std::string& scenario) {
  process_ = std::make_unique<Process>(program_, limits_.memory_bytes);
  process_->send(prepare_request_line(scenario, limits_.memory_bytes));
  const ProgramAnswer prepared = hear(limits_.preparing_s, "preparing ");
  if (!prepared.failure.empty()) return prepared.failure;
  try {
    parse_prepare_answer(prepared.line);
  } catch (const Error& error) {
    process_.reset();
    return std::string("preparing failed: ") + error.what();
  }
  process_->leave_memory_to_copies();
  return {};
}

ProgramAnswer PreparedProgram::ask(const std::string& scenario, const std::string& line, double limit_s) {
  if (const auto known = unprepared_.find(scenario); known != unprepared_.end()) return {"", known->second, 0};
  if (!process_ || scenario_ != scenario) {
    scenario_ = scenario;
    if (const std::string failure = prepare(scenario); !failure.empty())
      return {"", unprepared_[scenario] = failure, 0};
  }
  process_->send(line);
  ProgramAnswer answer = hear(limit_s, "the run ");
  if (!answer.failure.empty()) return answer;
  if (const auto left = process_->receive(left_behind_within_s))
    answer.left_behind = parse_left_behind(*left);
  else
    process_.reset();
  return answer;
}

namespace {

/// A copy of this process that answers one line.
class PreparedCopy {
 public:
  PreparedCopy(const std::string& line, const std::function<std::string(const std::string&)>& answer) {
    Channel reply = make_pipe(), errors = make_pipe();
    std::fflush(nullptr);
    others_ = children_of(::getpid());
    process_ = reply.is_open() && errors.is_open() ? ::fork() : -1;
    if (process_ < 0) return;
    if (process_ == 0) {
      ::setpgid(0, 0);
      ::prctl(PR_SET_PDEATHSIG, SIGKILL);
      ::dup2(errors.write.number(), STDERR_FILENO);
      reply.read.close();
      write_all(reply.write.number(), answer(line) + "\n");
      ::_exit(0);
    }
    ::setpgid(process_, process_);
    reply_ = std::move(reply.read);
    errors_ = std::move(errors.read);
    for (const Descriptor* from : {&reply_, &errors_}) ::fcntl(from->number(), F_SETFL, O_NONBLOCK);
  }

  /// An answer or a refusal with the reason.
  std::string answer(int asked_by, const Limits& limits) {
    if (process_ < 0) return refusal_line("the run could not be started: the process could not be copied");
    ChildReport report{.ending = ChildEnding::by_signal};
    for (bool is_over = false; !is_over && reply_.is_open();) {
      pollfd streams[] = {{reply_.number(), POLLIN, 0}, {errors_.number(), POLLIN, 0}, {asked_by, POLLRDHUP, 0}};
      ::poll(streams, 3, copy_looked_at_every_ms);
      is_over = has_ended();  // Before reading its last words; processes left behind may hold the pipe open.
      take(errors_, words_);
      take(reply_, line_);
      if (!line_.empty() && line_.back() == '\n') break;
      const bool is_unwanted = (streams[2].revents & (POLLRDHUP | POLLHUP)) != 0;
      if (limits.memory_bytes > 0 && bytes_of_copy(limits.memory_bytes) > limits.memory_bytes)
        report.ending = ChildEnding::out_of_memory;
      is_over = is_over || is_unwanted || report.ending == ChildEnding::out_of_memory;
      if (is_over) ::kill(-process_, SIGKILL);
    }
    note_end(report);
    if (!line_.empty() && line_.back() == '\n') return line_.substr(0, line_.size() - 1);
    const std::string words = last_lines(words_, 1);
    return refusal_line("the run " + worded(report, limits) +
                        (report.ending == ChildEnding::exited ? " before its record was complete" : "") +
                        (words.empty() ? "" : "; last output: " + words));
  }

  /// Processes ended, after the answer.
  int left_behind() const { return left_behind_; }

 private:
  /// Stays waitable.
  bool has_ended() const {
    siginfo_t info{};
    return ::waitid(P_PID, static_cast<id_t>(process_), &info, WEXITED | WNOHANG | WNOWAIT) == 0 && info.si_pid != 0;
  }

  /// With all that it started; prepared memory counts in each copy.
  double bytes_of_copy(double exact_above_bytes) const { return resident_bytes_below(::getpid(), exact_above_bytes); }

  static void take(Descriptor& from, std::string& into) {
    char buffer[65536];
    while (from.is_open()) {
      const ssize_t got = ::read(from.number(), buffer, sizeof buffer);
      if (got > 0) into.append(buffer, static_cast<std::size_t>(got));
      if (got == 0 || (got < 0 && errno != EAGAIN && errno != EINTR)) from.close();
      if (got < 0 && errno != EINTR) return;
    }
  }

  /// Orphans are reparented to this process and end with it.
  void end_what_is_left() {
    for (int ms = 0; ms < grace_ms && !left().empty(); ++ms) {
      for (const pid_t process : left()) ::waitpid(process, nullptr, WNOHANG);
      ::poll(nullptr, 0, 1);
    }
    for (std::set<pid_t> some = left(); !some.empty(); some = left())
      for (const pid_t process : some) {
        ::kill(process, SIGKILL);
        left_behind_ += ::waitpid(process, nullptr, 0) == process;
      }
  }
  /// New children of this process.
  std::set<pid_t> left() const {
    std::set<pid_t> all = children_of(::getpid()), some;
    std::set_difference(all.begin(), all.end(), others_.begin(), others_.end(), std::inserter(some, some.end()));
    return some;
  }

  void note_end(ChildReport& report) {
    int status = 0;
    while (::waitpid(process_, &status, 0) < 0 && errno == EINTR) {}
    end_what_is_left();
    take(errors_, words_);
    if (words_.size() > last_words_kept) words_.erase(0, words_.size() - last_words_kept);
    if (report.ending == ChildEnding::out_of_memory) return;
    report.ending = WIFSIGNALED(status) ? ChildEnding::by_signal : ChildEnding::exited;
    report.code = WIFSIGNALED(status) ? WTERMSIG(status) : WEXITSTATUS(status);
  }

  pid_t process_ = -1;
  std::set<pid_t> others_;  ///< Children from before: part of what was prepared.
  Descriptor reply_, errors_;
  std::string line_, words_;
  int left_behind_ = 0;
};

}  // namespace

void serve_prepared(int descriptor, const std::function<void(const std::string& scenario)>& prepare,
                    const std::function<std::string(const std::string& line)>& answer) {
  DescriptorChannel asked(descriptor, descriptor, true);
  const auto first = asked.receive(whole_study_s);
  if (!first) return;
  Limits limits;
  try {
    const Preparing wanted = parse_prepare_request(*first);
    limits.memory_bytes = wanted.memory_limit_bytes;
    prepare(wanted.scenario);
    asked.send(prepare_answer_line());
  } catch (const std::exception& error) {
    asked.send(refusal_line(error.what()));
    return;
  }
  ::prctl(PR_SET_CHILD_SUBREAPER, 1);
  while (const auto line = asked.receive(whole_study_s)) {
    PreparedCopy copy(*line, answer);
    asked.send(copy.answer(descriptor, limits));
    asked.send(left_behind_line(copy.left_behind()));
  }
}

}  // namespace mileage
