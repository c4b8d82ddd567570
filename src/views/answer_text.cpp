#include "views/answer_text.h"

#include "views/terminal.h"

namespace mileage {
namespace {

const char* kind_text(Note::Kind kind) {
  switch (kind) {
    case Note::Kind::note:
      return "note: ";
    case Note::Kind::warning:
      return "warning: ";
    case Note::Kind::failure:
      return "failed: ";
  }
  return "";
}

}  // namespace

std::string answer_text(const Answer& answer, bool more, std::size_t columns) {
  std::string verdict, tables, notes, next;
  for (const std::string& sentence : answer.verdict) verdict += sentence + "\n";
  for (const Table& table : answer.tables)
    if (table.is_shown() && (more || !table.is_on_request()))
      tables += (table.title().empty() ? "" : table.title() + "\n\n") + table.text(columns) + "\n";
  for (const Note& note : answer.notes)
    if (more || !note.on_request) notes += kind_text(note.kind) + note.text + "\n";
  for (const std::string& file : answer.files) notes += "written: " + file + "\n";
  for (const std::string& command : answer.next) next += "  " + command + "\n";
  const auto closed = [](const std::string& part) { return part.empty() ? part : part + "\n"; };
  return closed(verdict) + closed(answer.drawing) + tables + closed(notes) +
         (next.empty() ? "" : heading_of_commands + ("\n" + closed(next)));
}

}  // namespace mileage
