// Child processes: each with one deadline, kept by a keeper (keeper.h), so that neither it nor what it starts outlives
// this process.
#pragma once

#include <sys/types.h>

#include <atomic>
#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace mileage {

/// A program to be started as it stands: no shell is involved.
struct Command {
  std::vector<std::string> words;  ///< The program and its arguments. A name without a slash is looked for in PATH.
  std::filesystem::path
      directory;  ///< Where it runs, and what a relative name of a program starts from; empty for here.
  std::map<std::string, std::string> environment;  ///< On top of this process's own.
};

/// What another thread may change while run_child() waits.
struct ChildControl {
  std::atomic<bool> is_unwanted{false};    ///< The child may end by itself for half a second, then it is ended.
  std::atomic<bool> watches_memory{true};  ///< Whether the limit of memory applies.
};

/// What a child may use.
struct Limits {
  double time_s = 10;       ///< From its start to its end, in all.
  double memory_bytes = 0;  ///< Resident memory of it and all that it starts, read ten times a second; 0: no limit.
  /// Whether it is ended when this process is asked to stop (stop_signals.h): after a second, which a run that is
  /// nearly complete uses.
  bool heeds_stop = false;
  ChildControl* control = nullptr;  ///< Not owned.
};

/// What is exchanged with a child besides its standard error, of which the end is always kept.
struct Streams {
  std::optional<std::string>
      request;  ///< Written to its descriptor 3, which ends then; its descriptor 4 is read as its reply.
  /// Of a socket that becomes its descriptors 3 and 4, instead of a request and a reply; closed here once it has them.
  int socket = -1;
  bool output = true;  ///< Whether its standard output is kept, or thrown away.
};

/// Resources of a child and of every child that it waited for.
struct ResourcesUsed {
  double processor_s = 0;
  std::optional<double> peak_bytes;  ///< Of resident memory of one process; nothing where it stayed below what the
                                     ///< system starts counting at.
};

enum class ChildEnding { exited, by_signal, out_of_time, out_of_memory, stopped, not_started };

/// How a child ended.
struct ChildReport {
  ChildEnding ending = ChildEnding::not_started;
  int code = 0;                       ///< Exit code, signal, or errno of a start that failed.
  std::string output;                 ///< Beyond 64 MiB the rest is thrown away.
  std::string reply;                  ///< The same.
  std::string errors;                 ///< The last 4 KiB of its standard error.
  std::optional<ResourcesUsed> used;  ///< Nothing where it was not started, or could not be waited for.
  int left_behind = 0;                ///< Processes that it had left at its end, and that were ended.
  bool lingered = false;              ///< Whether its reply was complete and it had to be ended all the same.

  bool is_well() const { return ending == ChildEnding::exited && code == 0; }
};

/// Starts a child and waits until it has ended, or beyond a limit until it has been ended. A child that holds its reply
/// complete is waited for two seconds at most. Streams that others hold open are not waited for. Never throws.
ChildReport run_child(const Command& command, const Limits& limits, const Streams& streams);

/// "took longer than its limit of 10 s", "was ended by SIGSEGV (Segmentation fault)", "ended with exit code 3", "could
/// not be started: No such file or directory".
std::string worded(const ChildReport& report, const Limits& limits);

/// The last lines of a text that say anything, at most `most`, joined by " / ".
std::string last_lines(const std::string& text, std::size_t max);

}  // namespace mileage
