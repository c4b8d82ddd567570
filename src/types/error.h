// The one error that crosses functions inside Mileage: something from outside was not as it must be.
#pragma once

#include <exception>
#include <string>

namespace mileage {

/// What kind of thing went wrong; each has an exit code of the tool.
enum class FaultKind {
  usage,           ///< A flag, verb, name or value on the command line.
  bad_input,       ///< A file that was handed in.
  cannot_write,    ///< An output that cannot be written.
  cannot_measure,  ///< Nothing could be measured at all.
  variant          ///< A variant broke its contract; costs its run only.
};

/// The parts of a message. Empty parts are excluded of it.
struct Fault {
  FaultKind kind = FaultKind::bad_input;
  std::string file;      ///< Base name or path as the user gave it.
  int line = 0;          ///< Counted from 1; 0 for none.
  std::string field;     ///< Flag, column or JSON field.
  std::string problem;   ///< What is wrong, as a sentence without a full stop.
  std::string found;     ///< What was found.
  std::string accepted;  ///< What would be accepted.
};

/// Carries a Fault; what() is one line, in which long parts are cut, such as
/// `night.study.jsonl:12: count: not a whole number; found "x"; accepted: a whole number from 1`.
class Error : public std::exception {
 public:
  explicit Error(Fault fault);
  const char* what() const noexcept override { return message_.c_str(); }
  const Fault& fault() const { return fault_; }

 private:
  Fault fault_;
  std::string message_;
};

}  // namespace mileage
