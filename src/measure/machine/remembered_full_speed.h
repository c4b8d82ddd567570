// The full speed of the yardstick that this machine has shown, remembered between studies in the user's state folder
// ($MILEAGE_STATE, else $XDG_STATE_HOME/mileage, else ~/.local/state/mileage), so that a study that was slow from end
// to end is recognised.
#pragma once

#include <filesystem>
#include <optional>

#include "study/study.h"

namespace mileage {

/// The file that slowdowns are kept in; empty when no folder is known.
std::filesystem::path remembered_full_speeds_file();

/// Full speed in nanoseconds known of such a machine (processor and cores) for this version of the yardstick, with so
/// many cores probed at once. Nothing when none is known or the file cannot be read.
std::optional<double> remembered_full_speed_ns(const Machine& machine, int probed_cores = 1);

/// Fills what the head of a study says of it.
void set_remembered_full_speeds(Head& head);

/// Remembers a slowdown: a quarter of the way where it is better than the one known, a twentieth where it is worse,
/// wholly where it is better by more than 1.15, and not at all where it is worse by more. Quietly does nothing where it
/// cannot write: forgetting costs a warning only.
void remember_full_speed(const Machine& machine, double mean_ns, int probed_cores = 1);

}  // namespace mileage
