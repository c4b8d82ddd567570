// The verbs of the tool. Each function adds one to the command line.
#pragma once

#include "mileage/types/catalogue.h"
#include "tool/command_line.h"

namespace mileage {

void add_list_verb(CommandLine& line, const Catalogue& catalogue);
void add_measure_verb(CommandLine& line, const Catalogue& catalogue);
void add_drive_verb(CommandLine& line);
/// cost, curve, capacity, breakeven, choose, frames.
void add_answer_verbs(CommandLine& line);
void add_tune_verb(CommandLine& line, const Catalogue& catalogue);
void add_ladder_verb(CommandLine& line, const Catalogue& catalogue);
void add_import_verb(CommandLine& line);
void add_export_verb(CommandLine& line);
void add_report_verb(CommandLine& line);
void add_machine_verb(CommandLine& line);
/// Makes its pictures in this process.
void add_picture_verb(CommandLine& line, const Catalogue& catalogue);
/// Added where the catalogue holds the scenario that the demo shows.
void add_demo_verb(CommandLine& line, const Catalogue& catalogue);

}  // namespace mileage
