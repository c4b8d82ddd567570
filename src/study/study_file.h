// Study files (JSON Lines; docs/reference/study-file.md, docs/reference/study.schema.json).
#pragma once

#include <filesystem>
#include <string>
#include <string_view>

#include "study/study.h"
#include "study/study_json.h"
#include "system/descriptors.h"

namespace mileage {

/// At most 4 GiB. Drops a cut last line and duplicate runs, with a warning. Throws Error (bad input) with file and line
/// if missing, empty, damaged, of a future version or no study. Linear.
Study read_study(const std::filesystem::path& path);

/// `path` is for messages.
Study parse_study(std::string_view text, const std::filesystem::path& path);

/// Between heads: scenario, plan and processor, one line per field with both values. Empty if measuring may continue.
std::vector<std::string> differences(const Head& in_file, const Head& asked_for);

/// Each line reaches the system before the call returns. Locks the file against other writers. Not thread-safe.
class StudyWriter {
 public:
  /// Creates the file with its head. Throws Error (cannot write) if it exists or on failure, and for non-finite
  /// numbers; leaves nothing behind.
  StudyWriter(const std::filesystem::path& path, const Head& head);

  /// Continues a file and reads it into `study`. Unchanged until the first append(), which removes a cut last line or
  /// completes its line feed. Throws Error (cannot write) if it is no study, is locked, or on failure.
  StudyWriter(const std::filesystem::path& path, Study& study);

  /// Throws Error (cannot write) on failure or non-finite numbers; a partial line is removed.
  void append(const Run& run);
  /// Replaces the content by this head, keeping the lock.
  void restart(const Head& head);

 private:
  void lock() const;
  std::string line_of(const Json& json) const;
  void write_line(const std::string& line);

  void mend_end();

  std::string name_;
  Descriptor file_;
  std::string unfinished_;  ///< Last line without line feed.
};

}  // namespace mileage
