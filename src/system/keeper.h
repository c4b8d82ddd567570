// Keeper: a process between this one and a child. Ends the child and all it started when the child ends, on request, or
// when this process is gone.
#pragma once

#include <sys/resource.h>
#include <sys/types.h>

namespace mileage {

/// In order: `refused` or `started`; `ended`; `done`.
struct KeeperMessage {
  enum Kind : int {
    started,  ///< `value`: process number of the child; `used`: the keeper's own, whose peak of memory the child's
              ///< begins with.
    refused,  ///< `value`: errno.
    ended,    ///< `value`: wait status; `used`: with waited-for children.
    done      ///< `value`: number of processes ended. The keeper exits.
  };
  Kind kind = started;
  int value = 0;
  rusage used{};
};

/// Pointers must stay valid during start_keeper().
struct KeptChild {
  const char* program = nullptr;  ///< Relative to `directory`.
  char* const* words = nullptr;   ///< Ends with nullptr.
  char* const* environment = nullptr;
  const char* directory = nullptr;  ///< nullptr: current.
  int request = -1;                 ///< Descriptor 3; -1 for none.
  int reply = -1;                   ///< Descriptor 4; -1 for none.
  int output = -1;                  ///< Standard output; -1: /dev/null.
  int errors = -1;                  ///< Standard error. Standard input is empty.
};

/// Forks a keeper, which starts the child in its own process group. `status`: for its messages. `lifeline`: read end of
/// a pipe; the keeper ends everything when it closes. Returns its pid, or -1. Async-signal-safe between fork and exec.
pid_t start_keeper(const KeptChild& child, int status, int lifeline);

}  // namespace mileage
