// The keeper of a child process: a process between this one and the child that outlives neither. It ends the child, and
// every process that the child has left, when the child ends, when it is known to, and when this process is gone,
// however that went.
#pragma once

#include <sys/resource.h>
#include <sys/types.h>

namespace mileage {

/// What a keeper says over its status descriptor, in this order: `refused` or `started`; `ended`; `done`.
struct KeeperMessage {
  enum Kind : int {
    started,  ///< `value`: process number of the child; `used`: the keeper's own, whose peak of memory the child's
              ///< begins with.
    refused,  ///< `value`: errno of a start that failed.
    ended,  ///< `value`: the child's wait status; `used`: its resources, with those of every child that it waited for.
    done    ///< `value`: how many processes the child had left that had to be ended. The keeper goes.
  };
  Kind kind = started;
  int value = 0;
  rusage used{};
};

/// What the child is to be. All pointers must stay valid during start_keeper().
struct KeptChild {
  const char* program = nullptr;  ///< Path; a relative one starts from `directory`.
  char* const* words = nullptr;   ///< Ends with nullptr.
  char* const* environment = nullptr;
  const char* directory = nullptr;  ///< nullptr for here.
  int request = -1;                 ///< Becomes the child's descriptor 3; -1 for none.
  int reply = -1;                   ///< Becomes its descriptor 4; -1 for none.
  int output = -1;                  ///< Becomes its standard output; -1 for /dev/null.
  int errors = -1;                  ///< Becomes its standard error. Standard input is empty.
};

/// Forks a keeper, which starts the child in a process group of its own. `status`: where the keeper writes its
/// messages. `lifeline`: reading end of a pipe whose writing end only this process holds; once that is closed, the
/// keeper ends everything. Returns the keeper's process number, to be waited for, or -1.
///
/// Between fork and exec only system calls are made, no library code that could wait for a lock of a thread that is not
/// there.
pid_t start_keeper(const KeptChild& child, int status, int lifeline);

}  // namespace mileage
