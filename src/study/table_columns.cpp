#include "study/table_columns.h"

#include <fmt/format.h>

namespace mileage {

const std::vector<TableColumn>& table_columns() {
  static const std::vector<TableColumn> columns{
      {"variant", "the variant; without it --variant, --variant-from, or the name of the file", true},
      {"build", "name of the build that its program is of", true},
      {"knobs", "`scatter=1 workers=2`", true},
      {"knob:NAME", "the value of one knob; in place of `knobs`"},
      {"cold_bytes", "other memory walked before each frame", true},
      {"skipped_phase", "the phase that its frames skip: a floor", true},
      {"count", "entities as planned; without it --count, --count-from, or `alive`", true},
      {"block", "number of the repetition, from 0", true},
      {"run", "number of the run; without it a count that returns after ten rows or more is another run", true},
      {"status", "`kept` or `disturbed`", true},
      {"warmup", "1 for frames to set apart, which come first", true},
      {"frame", "number of the frame; rows are taken in their order", true},
      {"frame_ms", "milliseconds (or `ms`); required, or one of the next three", true},
      {"frames_per_sample", "over how many frames `frame_ms` is a mean", true},
      {"alive", "counted in this frame; blank means as in the row before", true},
      {"setup_ms", "setting the world up", true},
      {"fps", "frames per second: averages, which tell nothing of single frames"},
      {"low", "milliseconds read by eye: at least,"},
      {"high", "and at most; every row is a recording by itself"},
      {"phase:NAME", "milliseconds of a phase in this frame"},
      {"counter:NAME", "a counter in this frame"},
      {"outcome:NAME", "what the world looks like at the end; the last value counts"}};
  return columns;
}

std::string exported_header() {
  std::string header;
  for (const TableColumn& column : table_columns())
    if (column.is_exported) header += (header.empty() ? "" : ",") + std::string(column.name);
  return header;
}

std::string table_columns_list() {
  std::string list;
  for (const TableColumn& column : table_columns()) list += fmt::format("- `{}`: {}\n", column.name, column.meaning);
  return list;
}

}  // namespace mileage
