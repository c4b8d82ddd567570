// Full speed of the yardstick on this machine, remembered in the state folder ($MILEAGE_STATE, else
// $XDG_STATE_HOME/mileage, else ~/.local/state/mileage), to recognise studies that were slow throughout.
#pragma once

#include <filesystem>
#include <optional>

#include "study/study.h"

namespace mileage {

/// Empty without a folder.
std::filesystem::path remembered_full_speeds_file();

/// For this processor, yardstick version and number of cores probed. Nothing if unknown or unreadable.
std::optional<double> remembered_full_speed_ns(const Machine& machine, int probed_cores = 1);

void set_remembered_full_speeds(Head& head);

/// Moves the remembered value a quarter of the way to a faster one, a twentieth to a slower one; fully if faster by
/// over 1.15x, not at all if slower by more. Ignores write errors.
void remember_full_speed(const Machine& machine, double mean_ns, int probed_cores = 1);

}  // namespace mileage
