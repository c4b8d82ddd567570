// Frame tables: CSV recordings.
#pragma once

#include <cstdint>
#include <filesystem>
#include <istream>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

/// Default limit: a recording of some hours.
inline constexpr std::uintmax_t largest_table_bytes = std::uintmax_t{1} << 30U;

struct TableFormat {
  std::map<std::string, std::string> column_names;  ///< "frame_ms" -> "tick_ms".
  std::string variant;                              ///< For rows without the column; empty: the file name.
  std::optional<std::int64_t> count;                ///< For rows without the column.
  std::string variant_from;  ///< Regular expression for the file name; its first group is the variant.
  std::string count_from;
};

/// Frames of one run.
struct Recording {
  std::string file;  ///< Base name.
  std::string variant;
  std::string build;
  Knobs knobs;
  double cold_bytes = 0;
  std::string skipped_phase;
  std::int64_t count = 0;
  std::optional<int> block;
  RunStatus status = RunStatus::kept;  ///< kept or disturbed.
  int frames_per_sample = 1;
  std::optional<std::size_t> warmup;  ///< Leading warm-up frames, if marked.
  std::string run;                    ///< If named.
  int process = 0;                    ///< Of the file, or of a named run.
  bool goes_on = false;               ///< Follows another count in the same run.
  std::optional<double> setup_ms;
  std::vector<std::int64_t> frame_ns;
  std::vector<std::int64_t> alive;                       ///< Per frame, or empty.
  std::vector<double> yardstick_us;                      ///< Per frame, 0 for none; or empty.
  std::vector<double> waited_us;                         ///< Per frame, or empty.
  std::map<std::string, std::vector<double>> phases_ms;  ///< Per frame; 0 for none.
  std::map<std::string, std::vector<double>> counters;   ///< Per frame.
  std::map<std::string, double> outcome;                 ///< Last values.
  std::vector<std::string> unread_columns;               ///< First recording of a file only.
  bool of_timestamps = false;                            ///< Frame times were differences of timestamps.
  bool of_rates = false;                                 ///< Rows were frames per second: averages.
  std::optional<double> read_share;                      ///< For readings by eye: largest half of log(high / low).
};

/// Columns: `frame_ms` (or `ms`, `fps`, or `low` and `high` read by eye), `variant`, `count`, `run`, `block`, `frame`,
/// `alive` (blank: as before), `setup_ms`, `yardstick_us` (after the frame), `waited_us` (for a core), `build`, `knobs`
/// ("scatter=1 workers=2"), `knob:NAME`, `cold_bytes`, `skipped_phase`, `status` (kept, disturbed),
/// `frames_per_sample`, `warmup` (1, first frames), `phase:NAME`, `counter:NAME`, `outcome:NAME`; others are listed in
/// `unread_columns`. Without any count, `alive` is the count. Rows of one file, variant, count, block and run are a
/// recording; without runs, a count that recurs after ten rows begins another one, and each reading by eye is its own.
/// A frame-time column that only rises holds timestamps: differences are used, the first row is dropped. Throws Error
/// (bad input) with file and line: missing rows or columns, decimal commas and other separators, duplicate columns,
/// invalid numbers, times <= 0, more waiting than time, irregular files or more than `max_bytes`. 1 s per million rows.
std::vector<Recording> read_frame_tables(const std::vector<std::filesystem::path>& files, const TableFormat& format,
                                         std::uintmax_t max_bytes = largest_table_bytes);

/// `name`: file name.
std::vector<Recording> read_frame_table(std::istream& stream, const std::filesystem::path& name,
                                        const TableFormat& format);

}  // namespace mileage
