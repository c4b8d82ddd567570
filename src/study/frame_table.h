// Frame tables: recordings from elsewhere as CSV with a header, and studies as CSV.
#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

/// How tables are read.
struct TableFormat {
  std::map<std::string, std::string> column_names;  ///< Another name for a column: "frame_ms" -> "FrameTime".
  std::string variant;                ///< Holds for rows without a variant column; empty means the name of the file.
  std::optional<std::int64_t> count;  ///< Holds for rows without a count column.
  std::string scenario = "recording"; ///< What the scenario is called.
  std::string entities = "entities";  ///< What is counted, in the plural.
  double budget_ms = 1000.0 / 60.0;
};

/// Reads frame tables into one study. Columns: `frame_ms` (required), `variant`, `count`, `visit`, `block`, `frame`, `alive`,
/// `setup_ms`, `phase:NAME`, `counter:NAME`, `outcome:NAME`; any other is ignored. The last `outcome:` of a visit holds. Frames of one file, variant, count, block
/// and visit are one visit, in the order of their rows; without a block column the visits of a cell are numbered as blocks.
/// Times are in milliseconds with a decimal point. Quotes, CRLF, a byte order mark, blank lines and lines that begin with #
/// are understood. Throws Error (bad input) with file and line: for a file without rows or without a needed column, for
/// decimal commas and other separators (with advice), for numbers that are none, and for times that are not above zero.
/// About a second for a million rows.
Study read_frame_tables(const std::vector<std::filesystem::path>& files, const TableFormat& format);

/// All frames of a study as a frame table: one row per sample of every visit that was made in a block.
std::string frames_csv(const Study& study);

/// One value quoted as CSV needs it.
std::string csv_field(const std::string& value);

}  // namespace mileage
