#include "measure/machine/remembered_full_speed.h"

#include <fcntl.h>
#include <sys/file.h>

#include <cmath>
#include <cstdlib>
#include <fstream>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "analysis/statistics/constants.h"
#include "measure/machine/yardstick.h"
#include "study/study_json.h"
#include "system/descriptors.h"
#include "system/files.h"
#include "types/error.h"
#include "types/splitmix.h"

namespace mileage {
namespace {

/// Of the log difference taken over from a faster study, so that one lucky hour changes little; and from a slower one,
/// since a maximum over many studies would only rise.
constexpr double share_of_better_news = 0.25;
constexpr double share_of_worse_news = 0.05;

std::filesystem::path state_folder() {
  if (const char* own = std::getenv("MILEAGE_STATE")) return own;
  if (const char* states = std::getenv("XDG_STATE_HOME")) return std::filesystem::path(states) / "mileage";
  if (const char* home = std::getenv("HOME")) return std::filesystem::path(home) / ".local/state/mileage";
  return {};
}

/// Hashed, so that no file identifies a machine.
std::string hashed_machine_id() {
  std::ifstream stream("/etc/machine-id");
  std::string id;
  std::uint64_t hash = 0;
  if (stream >> id)
    for (const char c : id) hash = splitmix64(hash ^ static_cast<unsigned char>(c));
  return fmt::format("{:016x}", hash);
}

std::string key_of(const Machine& machine, int probed_cores) {
  const std::string key = fmt::format("{}, {} cores, yardstick {}, machine {}", machine.processor, machine.cores,
                                      yardstick_version, hashed_machine_id());
  return probed_cores == 1 ? key : fmt::format("{}, on {} cores at once", key, probed_cores);
}

/// Empty if unreadable.
Json read_slowdowns() {
  std::ifstream stream(remembered_full_speeds_file());
  Json slowdowns = parsed_json(std::string(std::istreambuf_iterator<char>(stream), {}));
  return slowdowns.is_object() ? slowdowns : Json::object();
}

/// Locked for read-modify-write.
Descriptor locked(const std::filesystem::path& file) {
  Descriptor lock(::open((file.string() + ".lock").c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0644));
  if (lock.is_open()) ::flock(lock.number(), LOCK_EX);
  return lock;
}

}  // namespace

std::filesystem::path remembered_full_speeds_file() {
  const std::filesystem::path folder = state_folder();
  return folder.empty() ? folder : folder / "yardstick.json";
}

std::optional<double> remembered_full_speed_ns(const Machine& machine, int probed_cores) {
  const Json slowdowns = read_slowdowns();
  const auto slowdown = slowdowns.find(key_of(machine, probed_cores));
  if (slowdown == slowdowns.end() || !slowdown->is_number() || slowdown->get<double>() <= 0) return std::nullopt;
  return slowdown->get<double>();
}

void set_remembered_full_speeds(Head& head) {
  head.yardstick_version = yardstick_version;
  head.full_speed_ns = remembered_full_speed_ns(head.machine);
  for (int cores = 2; cores <= head.machine.cores; ++cores)
    if (const auto slowdown = remembered_full_speed_ns(head.machine, cores))
      head.full_speed_on_cores_ns[std::to_string(cores)] = *slowdown;
}

void remember_full_speed(const Machine& machine, double mean_ns, int probed_cores) {
  const std::filesystem::path file = remembered_full_speeds_file();
  if (file.empty()) return;
  std::error_code failed;
  std::filesystem::create_directories(file.parent_path(), failed);
  const Descriptor lock = locked(file);
  const auto known = remembered_full_speed_ns(machine, probed_cores);
  if (known && mean_ns > *known * same_speed_within) return;
  Json slowdowns = read_slowdowns();
  const bool is_another_speed = known && *known > mean_ns * same_speed_within;
  const double share = known && mean_ns > *known ? share_of_worse_news : share_of_better_news;
  slowdowns[key_of(machine, probed_cores)] =
      known && !is_another_speed ? *known * std::pow(mean_ns / *known, share) : mean_ns;
  try {
    write_whole_file(file, to_text(slowdowns), IfThere::replace);
  } catch (const Error&) {
    // Measuring works without a remembered full speed.
  }
}

}  // namespace mileage
