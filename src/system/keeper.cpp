#include "system/keeper.h"

#include <fcntl.h>
#include <poll.h>
#include <sys/prctl.h>
#include <sys/syscall.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cerrno>
#include <csignal>
#include <cstddef>
#include <cstdint>
#include <ctime>
#include <initializer_list>

namespace mileage {
namespace {

constexpr int child_reads_at = 3;
constexpr int child_writes_at = 4;
constexpr int not_started = 127;
/// For remaining processes to end by themselves.
constexpr int grace_ms = 50;
/// Limit for processes stuck in the kernel.
constexpr int sweep_ms = 5000;

/// In a forked process: system calls only.

void say(int status, KeeperMessage::Kind kind, int value, const rusage* used = nullptr) {
  KeeperMessage message;
  message.kind = kind;
  message.value = value;
  if (used != nullptr) message.used = *used;
  while (::write(status, &message, sizeof message) < 0 && errno == EINTR) {}
}

std::int64_t now_ms() {
  timespec now{};
  ::clock_gettime(CLOCK_MONOTONIC, &now);
  return std::int64_t{now.tv_sec} * 1000 + now.tv_nsec / 1'000'000;
}

void pause_ms(int ms) { ::poll(nullptr, 0, ms); }

/// Copies must not outlive this process in a keeper.
void close_all_but(int* kept, int size) {
  for (int i = 1; i < size; ++i)
    for (int j = i; j > 0 && kept[j] < kept[j - 1]; --j) {
      const int other = kept[j];
      kept[j] = kept[j - 1];
      kept[j - 1] = other;
    }
  unsigned from = 0;
  for (int i = 0; i < size; ++i) {
    if (kept[i] < 0) continue;
    const auto here = static_cast<unsigned>(kept[i]);
    if (here > from) ::close_range(from, here - 1, 0);
    from = here + 1;
  }
  ::close_range(from, ~0U, 0);
}

void place(int descriptor, int at, int mode) {
  if (descriptor < 0) descriptor = ::open("/dev/null", mode);
  if (descriptor != at) ::dup2(descriptor, at);
}

[[noreturn]] void become(const KeptChild& child, int status, pid_t keeper) {
  ::setpgid(0, 0);
  ::prctl(PR_SET_PDEATHSIG, SIGKILL);
  if (::getppid() != keeper) ::_exit(not_started);
  place(-1, STDIN_FILENO, O_RDONLY);
  place(child.output, STDOUT_FILENO, O_WRONLY);
  place(child.errors, STDERR_FILENO, O_WRONLY);
  if (child.request >= 0) place(child.request, child_reads_at, O_RDONLY);
  if (child.reply >= 0) place(child.reply, child_writes_at, O_WRONLY);
  struct sigaction usual {};
  usual.sa_handler = SIG_DFL;
  for (const int signal : {SIGPIPE, SIGCHLD}) ::sigaction(signal, &usual, nullptr);
  sigset_t none;
  sigemptyset(&none);
  ::sigprocmask(SIG_SETMASK, &none, nullptr);
  if (child.directory == nullptr || ::chdir(child.directory) == 0)
    ::execve(child.program, child.words, child.environment);
  say(status, KeeperMessage::refused, errno);
  ::_exit(not_started);
}

/// -1 if not digits.
pid_t number_in(const char* text) {
  if (*text == '\0') return -1;
  long number = 0;
  for (; *text != '\0'; ++text) {
    if (*text < '0' || *text > '9') return -1;
    number = number * 10 + (*text - '0');
  }
  return static_cast<pid_t>(number);
}

/// /proc/PID/stat: "PID (name) state parent ..."; the name may hold anything.
pid_t parent_of(const char* name) {
  char path[64] = "/proc/";
  std::size_t size = 6;
  for (; *name != '\0' && size < 40; ++name) path[size++] = *name;
  for (const char* rest = "/stat"; *rest != '\0'; ++rest) path[size++] = *rest;
  const int file = ::open(path, O_RDONLY | O_CLOEXEC);
  if (file < 0) return -1;
  char text[512];
  const ssize_t got = ::read(file, text, sizeof text - 1);
  ::close(file);
  ssize_t at = got - 1;
  while (at >= 0 && text[at] != ')') --at;
  if (at < 0 || at + 4 >= got) return -1;
  pid_t parent = 0;
  for (at += 4; at < got && text[at] >= '0' && text[at] <= '9'; ++at) parent = parent * 10 + (text[at] - '0');
  return parent;
}

/// getdents64 layout.
struct FolderEntry {
  std::uint64_t number;
  std::int64_t offset;
  unsigned short size;
  unsigned char type;
  char name[1];
};

void kill_children_of(pid_t parent) {
  const int folder = ::open("/proc", O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  if (folder < 0) return;
  alignas(FolderEntry) char entries[16384];
  for (long got = ::syscall(SYS_getdents64, folder, entries, sizeof entries); got > 0;
       got = ::syscall(SYS_getdents64, folder, entries, sizeof entries))
    for (long at = 0; at < got;) {
      const auto* entry = reinterpret_cast<const FolderEntry*>(entries + at);
      const pid_t process = number_in(entry->name);
      if (process > 0 && parent_of(entry->name) == parent) ::kill(process, SIGKILL);
      at += entry->size;
    }
  ::close(folder);
}

/// Orphans of the child are reparented to the keeper.
class Keeping {
 public:
  Keeping(pid_t child, int status) : child_(child), status_(status) {}

  /// False when nothing is left.
  bool reap() {
    int how = 0;
    rusage used{};
    pid_t ended = 0;
    while ((ended = ::wait4(-1, &how, WNOHANG, &used)) > 0) {
      if (ended == child_) {
        is_child_there_ = false;
        say(status_, KeeperMessage::ended, how, &used);
      } else if (sweeping_ && WIFSIGNALED(how) && WTERMSIG(how) == SIGKILL) {
        ++swept_;
      }
    }
    return ended == 0 || errno == EINTR;
  }
  bool is_child_there() const { return is_child_there_; }

  void wait_a_moment() {
    for (const std::int64_t start = now_ms(); reap() && now_ms() - start < grace_ms;) pause_ms(1);
  }

  void sweep() {
    sweeping_ = true;
    const pid_t self = ::getpid();
    for (const std::int64_t start = now_ms(); reap() && now_ms() - start < sweep_ms; pause_ms(1)) {
      ::kill(-child_, SIGKILL);
      kill_children_of(self);
    }
  }
  int swept() const { return swept_; }

 private:
  pid_t child_;
  int status_;
  bool is_child_there_ = true;
  bool sweeping_ = false;
  int swept_ = 0;
};

[[noreturn]] void keep(const KeptChild& child, int status, int lifeline) {
  sigset_t all;
  sigfillset(&all);
  ::sigprocmask(SIG_SETMASK, &all, nullptr);
  ::setpgid(0, 0);
  ::prctl(PR_SET_CHILD_SUBREAPER, 1);
  struct sigaction noticed {};
  noticed.sa_handler = [](int) {};
  ::sigaction(SIGCHLD, &noticed, nullptr);
  int kept[] = {child.request, child.reply, child.output, child.errors, status, lifeline};
  close_all_but(kept, sizeof kept / sizeof *kept);

  const pid_t self = ::getpid();
  const pid_t started = ::_Fork();
  if (started == 0) become(child, status, self);
  if (started < 0) {
    say(status, KeeperMessage::refused, errno);
    ::_exit(0);
  }
  rusage own{};
  ::getrusage(RUSAGE_SELF, &own);
  say(status, KeeperMessage::started, started, &own);
  // The keeper must not hold the child's streams open.
  for (const int end : {child.request, child.reply, child.output, child.errors})
    if (end >= 0) ::close(end);

  sigset_t but_children = all;
  sigdelset(&but_children, SIGCHLD);
  Keeping keeping(started, status);
  bool is_wanted = true;
  while (keeping.reap() && keeping.is_child_there() && is_wanted) {
    pollfd watched{lifeline, POLLIN, 0};
    is_wanted = ::ppoll(&watched, 1, nullptr, &but_children) <= 0;
  }
  if (is_wanted) keeping.wait_a_moment();
  keeping.sweep();
  say(status, KeeperMessage::done, keeping.swept());
  ::_exit(0);
}

}  // namespace

pid_t start_keeper(const KeptChild& child, int status, int lifeline) {
  const pid_t keeper = ::_Fork();
  if (keeper == 0) keep(child, status, lifeline);
  return keeper;
}

}  // namespace mileage
