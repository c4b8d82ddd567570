// Invalid input or environment: the only error inside Mileage.
#pragma once

#include <exception>
#include <string>

namespace mileage {

/// Each has an exit code.
enum class FaultKind {
  usage,      ///< Command line.
  bad_input,  ///< Input file.
  cannot_write,
  cannot_measure,
  variant  ///< A variant broke its contract; fails its run only.
};

/// Empty parts are omitted.
struct Fault {
  FaultKind kind = FaultKind::bad_input;
  std::string file;     ///< As given.
  int line = 0;         ///< From 1; 0 for none.
  std::string field;    ///< Option, column or JSON field.
  std::string problem;  ///< Without a full stop.
  std::string found;
  std::string accepted;
};

/// what() is one line: `night.study.jsonl:12: count: not a whole number; found "x"; accepted: a whole number from 1`.
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
