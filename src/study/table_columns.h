// Columns of frame tables, for messages, exports and docs.
#pragma once

#include <string>
#include <vector>

namespace mileage {

struct TableColumn {
  const char* name;  ///< May end with a prefix, "phase:".
  const char* meaning;
  bool is_exported = false;
};

/// In export order.
const std::vector<TableColumn>& table_columns();

/// Without a line feed.
std::string exported_header();

/// Markdown.
std::string table_columns_list();

}  // namespace mileage
