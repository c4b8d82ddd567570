// The fast level of the yardstick that this machine has shown, remembered between studies in the user's state folder
// ($MILEAGE_STATE, else $XDG_STATE_HOME/mileage, else ~/.local/state/mileage), so that a study that was slow from end
// to end is recognised.
#pragma once

#include <filesystem>
#include <optional>

#include "study/study.h"

namespace mileage {

/// The file that levels are kept in; empty when no folder is known.
std::filesystem::path remembered_levels_file();

/// Fast level in nanoseconds known of such a machine (processor and cores) for this version of the yardstick, with so
/// many cores probed at once. Nothing when none is known or the file cannot be read.
std::optional<double> remembered_level_ns(const Machine& machine, int probed_cores = 1);

/// Fills what the head of a study says of it.
void tell_remembered_levels(Head& head);

/// Remembers a level: a quarter of the way where it is better than the one known, a twentieth where it is worse, wholly
/// where it is better by more than 1.15, and not at all where it is worse by more. Quietly does nothing where it cannot
/// write: forgetting costs a warning only.
void remember_level(const Machine& machine, double level_ns, int probed_cores = 1);

}  // namespace mileage
