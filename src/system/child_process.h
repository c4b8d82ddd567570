// Child processes with a deadline and a keeper (keeper.h), so that they and their children never outlive this process.
#pragma once

#include <sys/types.h>

#include <atomic>
#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace mileage {

/// Started without a shell.
struct Command {
  std::vector<std::string> words;                  ///< A name without slash is searched in PATH.
  std::filesystem::path directory;                 ///< Also base of a relative program; empty for the current one.
  std::map<std::string, std::string> environment;  ///< Additional.
};

/// Changed by another thread during run_child().
struct ChildControl {
  std::atomic<bool> is_unwanted{false};  ///< Ends the child after half a second.
  std::atomic<bool> watches_memory{true};
};

struct Limits {
  double time_s = 10;       ///< Total.
  double memory_bytes = 0;  ///< Resident, with its children, checked ten times per second; 0: no limit.
  /// End it one second after a stop request (stop_signals.h).
  bool heeds_stop = false;
  ChildControl* control = nullptr;  ///< Not owned.
};

/// Besides standard error, whose end is always kept.
struct Streams {
  std::optional<std::string> request;  ///< Sent to descriptor 3, then closed; descriptor 4 is the reply.
  /// Instead: socket as descriptors 3 and 4; closed here afterwards.
  int socket = -1;
  bool output = true;  ///< Keep standard output.
};

/// Of a child and its waited-for children.
struct ResourcesUsed {
  double processor_s = 0;
  std::optional<double> peak_bytes;  ///< Resident, of one process; nothing below the system's minimum.
};

enum class ChildEnding { exited, by_signal, out_of_time, out_of_memory, stopped, not_started };

struct ChildReport {
  ChildEnding ending = ChildEnding::not_started;
  int code = 0;                       ///< Exit code, signal, or errno.
  std::string output;                 ///< At most 64 MiB.
  std::string reply;                  ///< At most 64 MiB.
  std::string errors;                 ///< Last 4 KiB.
  std::optional<ResourcesUsed> used;  ///< Nothing if not started.
  int left_behind = 0;                ///< Processes ended after it.
  bool lingered = false;              ///< Ended after a complete reply.

  bool is_well() const { return ending == ChildEnding::exited && code == 0; }
};

/// Starts a child and waits for its end or a limit; after a complete reply for two seconds. Ignores streams that others
/// hold open. Never throws.
ChildReport run_child(const Command& command, const Limits& limits, const Streams& streams);

/// "took longer than its limit of 10 s", "was ended by SIGSEGV (Segmentation fault)", "ended with exit code 3", "could
/// not be started: No such file or directory".
std::string worded(const ChildReport& report, const Limits& limits);

/// Non-empty lines, at most `max`, joined by " / ".
std::string last_lines(const std::string& text, std::size_t max);

}  // namespace mileage
