// Frame tables: recordings from elsewhere as CSV with a header.
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

/// Largest table that is read unless told otherwise: a recording of some hours.
inline constexpr std::uintmax_t largest_table_bytes = std::uintmax_t{1} << 30U;

/// How tables are read.
struct TableFormat {
  std::map<std::string, std::string> column_names;  ///< Another name for a column: "frame_ms" -> "tick_ms".
  std::string variant;                ///< Holds for rows without a variant column; empty means the name of the file.
  std::optional<std::int64_t> count;  ///< Holds for rows without a count column.
  std::string
      variant_from;  ///< Regular expression whose first group in the name of a file is the variant; empty for none.
  std::string count_from;  ///< The same for the count.
};

/// Frames of one run, row by row as a table tells them.
struct Recording {
  std::string file;  ///< Base name.
  std::string variant;
  std::string build;  ///< Where the table names it.
  Knobs knobs;
  double cold_bytes = 0;
  std::string skipped_phase;  ///< The phase that its frames skip.
  std::int64_t count = 0;
  std::optional<int> block;            ///< Where the table names it.
  RunStatus status = RunStatus::kept;  ///< kept or disturbed.
  int frames_per_sample = 1;
  std::optional<std::size_t> warmup;  ///< Leading frames that the table sets apart; nothing where it does not tell.
  std::string run;                    ///< As the table names it; empty where it does not.
  int process = 0;                    ///< Number of the file, or of the run where the table names those.
  bool goes_on = false;  ///< Whether it follows another count in the same run, so that it begins with a change.
  std::optional<double> setup_ms;  ///< Nothing where the table tells none.
  std::vector<std::int64_t> frame_ns;
  std::vector<std::int64_t> alive;   ///< One per frame, or empty.
  std::vector<double> yardstick_us;  ///< One per frame, 0 where none was taken after it; or empty.
  std::vector<double> waited_us;     ///< One per frame: of it, waiting for a core that others had; or empty.
  std::map<std::string, std::vector<double>> phases_ms;  ///< One per frame; 0 where a row tells none.
  std::map<std::string, std::vector<double>> counters;   ///< The same.
  std::map<std::string, double> outcome;                 ///< As last told.
  std::vector<std::string> unread_columns;  ///< Of the first recording of a file: columns that say nothing here.
  bool of_timestamps = false;               ///< Whether the column of frame times held the time since some start.
  bool of_rates = false;                    ///< Whether rows held frames per second: averages over many frames each.
  std::optional<double> read_share;         ///< Of readings by eye: half of log(high / low), the widest of them.
};

/// Reads frame tables. Columns: `frame_ms` (required; or `fps`, frames per second; or `low` and `high`, between which
/// milliseconds were read by eye), `variant`, `count`, `run`, `block`, `frame`, `alive` (blank: as in the row
/// before), `setup_ms`, `yardstick_us` (of fixed work timed after the frame; blank where none was), `waited_us` (for a
/// core), `build`, `knobs` ("scatter=1 workers=2"), `knob:NAME`, `cold_bytes`, `skipped_phase`, `status` (kept,
/// disturbed), `frames_per_sample`, `warmup` (1 for frames to set apart, which come first), `phase:NAME`,
/// `counter:NAME`, `outcome:NAME`; any other is known of in `unread_columns`. `ms` is `frame_ms` where there is none.
/// Without a count anywhere, how many are alive is the count. Frames of one file, variant, count, block and run are one
/// recording, in the order of their rows; where the table names no runs and a count comes back after ten rows or more,
/// it is another one. Every reading by eye is a recording by itself. Times are in milliseconds with a decimal point. A
/// column of frame times that only rises is one of timestamps: its differences are the frame times, and the first row
/// goes. Throws Error (bad input) with file and line: for a file without rows or without a needed column, for decimal
/// commas and other separators (with advice), for columns that occur twice, for numbers that are none, for times that
/// are not above zero, for frames that waited longer than they took, and for what is no regular file or larger than
/// `max_bytes`. About a second for a million rows.
std::vector<Recording> read_frame_tables(const std::vector<std::filesystem::path>& files, const TableFormat& format,
                                         std::uintmax_t max_bytes = largest_table_bytes);

/// The same for one table that comes from elsewhere; `name` is that of its file.
std::vector<Recording> read_frame_table(std::istream& stream, const std::filesystem::path& name,
                                        const TableFormat& format);

}  // namespace mileage
