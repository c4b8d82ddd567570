// See docs/reference/verbs.md.
#pragma once

#include "types/error.h"

namespace mileage {

enum ExitCode : int {
  exit_answered = 0,
  exit_some_runs_failed = 1,
  exit_usage = 2,
  exit_bad_input = 3,
  exit_cannot_write = 4,
  exit_nothing_measured = 5,
  exit_cannot_answer = 7,  ///< The study does not contain the answer.
  exit_internal = 6,       ///< Internal error, or out of memory.
  exit_interrupted = 130,
  exit_closed_pipe = 141  ///< The reader closed the pipe.
};

inline int exit_code_of(FaultKind kind) {
  switch (kind) {
    case FaultKind::usage:
      return exit_usage;
    case FaultKind::bad_input:
      return exit_bad_input;
    case FaultKind::cannot_write:
      return exit_cannot_write;
    case FaultKind::cannot_measure:
      return exit_nothing_measured;
    case FaultKind::variant:
      return exit_some_runs_failed;
  }
  return exit_bad_input;
}

}  // namespace mileage
