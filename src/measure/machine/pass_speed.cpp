#include "measure/machine/pass_speed.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cstdint>
#include <thread>
#include <vector>

namespace mileage {
namespace {

constexpr double times_the_cache = 2;
constexpr double min_bytes = 32 << 20;
constexpr double max_bytes = 256 << 20;
constexpr int passes = 4;

double now_s() { return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count(); }

/// Touched before, so that no pass page-faults.
class Block {
 public:
  explicit Block(std::size_t bytes) : words_(bytes / sizeof(std::uint64_t), 1) {}
  void pass() {
    constexpr std::size_t words_of_a_line = 8;
    constexpr std::size_t ahead = 64 * words_of_a_line;
    std::uint64_t* words = words_.data();
    for (std::size_t line = 0; line + words_of_a_line <= words_.size(); line += words_of_a_line) {
      __builtin_prefetch(words + line + ahead, 1);
      for (std::size_t i = 0; i < words_of_a_line; ++i) words[line + i] += line;
    }
  }

 private:
  std::vector<std::uint64_t> words_;
};

/// On all cores at once.
double fastest_pass_s(std::vector<Block>& blocks) {
  double fastest_s = 1e9;
  for (int pass = 0; pass < passes; ++pass) {
    std::atomic<std::size_t> ready{0};
    std::vector<double> ends(blocks.size());
    std::vector<double> begins(blocks.size());
    std::vector<std::thread> threads;
    for (std::size_t i = 0; i < blocks.size(); ++i)
      threads.emplace_back([&, i] {
        ++ready;
        while (ready < blocks.size()) std::this_thread::yield();
        begins[i] = now_s();
        blocks[i].pass();
        ends[i] = now_s();
      });
    for (std::thread& thread : threads) thread.join();
    fastest_s = std::min(fastest_s,
                         *std::max_element(ends.begin(), ends.end()) - *std::min_element(begins.begin(), begins.end()));
  }
  return fastest_s;
}

double speed_on(int cores, double bytes) {
  std::vector<Block> blocks;
  for (int core = 0; core < cores; ++core) blocks.emplace_back(static_cast<std::size_t>(bytes / cores));
  return 2 * bytes / fastest_pass_s(blocks);
}

}  // namespace

std::map<std::string, double> pass_speeds(const Machine& machine) {
  double cache = 0;
  for (const auto& [name, bytes] : machine.cache_bytes) cache = std::max(cache, bytes);
  const double bytes = std::clamp(times_the_cache * cache, min_bytes, max_bytes);
  std::map<std::string, double> speeds{{"1", speed_on(1, bytes)}};
  if (machine.cores > 1) speeds[std::to_string(machine.cores)] = speed_on(machine.cores, bytes);
  return speeds;
}

}  // namespace mileage
