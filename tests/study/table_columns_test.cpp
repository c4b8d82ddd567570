#include "study/table_columns.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "study/frame_table.h"

namespace mileage {
namespace {

TEST(TableColumns, AnExportHasThoseThatImportReads) {
  EXPECT_EQ(exported_header(),
            "variant,build,knobs,cold_bytes,skipped_phase,count,block,run,status,warmup,frame,frame_ms,frames_per_"
            "sample,alive,"
            "setup_ms");
}

// Each with an invalid value.
TEST(TableColumns, AreAllKnownToTheReader) {
  for (const TableColumn& column : table_columns()) {
    const std::string name = column.name;
    if (name == "frame" || name == "variant" || name == "build" || name == "skipped_phase" || name == "run" ||
        name == "frame_ms" || name == "fps" || name == "low" || name == "high" || name == "knob:NAME")
      continue;  // Texts, ordered columns, and alternative times.
    std::istringstream table((name == "count" ? "" : "count,") + name + ",frame_ms\n" + (name == "count" ? "" : "10,") +
                             "=,5\n");
    EXPECT_ANY_THROW(read_frame_table(table, "t.csv", {})) << name;
  }
}

}  // namespace
}  // namespace mileage
