// Reading and writing study files (JSON Lines; docs/reference/study-file.md, docs/reference/study.schema.json).
#pragma once

#include <filesystem>
#include <string>
#include <string_view>

#include "study/study.h"
#include "study/study_json.h"
#include "system/descriptors.h"

namespace mileage {

/// Reads a whole study, of at most 4 GiB. A last line that was cut off (a writer that was killed) is excluded with a
/// warning, and so is a run that stands in it twice. Throws Error (bad input), naming file and line, for a file that
/// is missing, empty, broken in the middle, of a future version, or not a study at all. Linear in the size of the file.
Study read_study(const std::filesystem::path& path);

/// The same for a text that was read already; `path` is for messages.
Study parse_study(std::string_view text, const std::filesystem::path& path);

/// In what the head of a file differs from another one: scenario, plan and processor, one line per field with both
/// values. Empty when measuring may go on from the one with the other.
std::vector<std::string> differences(const Head& in_file, const Head& asked_for);

/// Writes a study as it is measured: each line is handed to the system before the call returns. Holds a lock on the
/// file while it lives, so that a second writer is refused. Not for use from several threads.
class StudyWriter {
 public:
  /// Creates the file and writes its head. Throws Error (cannot write) when the file exists already, when the system
  /// refuses, and for a number that is not finite; an existing file is never touched, and nothing is left behind.
  StudyWriter(const std::filesystem::path& path, const Head& head);

  /// Continues a file, and reads what is in it into `study`. Changes nothing before the first append(), which takes off
  /// a last line that was cut off and completes one that only lacks its line feed. Throws Error (cannot write) when the
  /// file is no study, another process is writing to it, or the system refuses; the file is then as it was.
  StudyWriter(const std::filesystem::path& path, Study& study);

  /// Appends one run. Throws Error (cannot write) when the system refuses, a full disk for instance, and for a number
  /// that is not finite; a line that was only written in part is taken back, so that the file stays readable.
  void append(const Run& run);
  /// Empties the file and writes this head, without letting go of the lock.
  void restart(const Head& head);

 private:
  void lock() const;
  std::string line_of(const Json& json) const;
  void write_line(const std::string& line);

  void mend_end();

  std::string name_;
  Descriptor file_;
  std::string unfinished_;  ///< Of the file that is continued: its last line, where that has no line feed.
};

}  // namespace mileage
