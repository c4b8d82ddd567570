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
/// In this process.
void add_picture_verb(CommandLine& line, const Catalogue& catalogue);
/// If the catalogue holds the demo's scenario.
void add_demo_verb(CommandLine& line, const Catalogue& catalogue);

}  // namespace mileage
