// The columns of frame tables, described once: for the reader's messages, the header of an export, and the table in
// docs.
#pragma once

#include <string>
#include <vector>

namespace mileage {

struct TableColumn {
  const char* name;  ///< "phase:" and the like stand before a name of the table's own.
  const char* meaning;
  bool is_exported = false;
};

/// In the order in which an export has them.
const std::vector<TableColumn>& table_columns();

/// The header of an exported table, without a line feed.
std::string exported_header();

/// As a Markdown table: name and meaning.
std::string table_columns_table();

}  // namespace mileage
