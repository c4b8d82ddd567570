// Sorts and searches that count comparisons: counting_sorts WAY COUNT SEED FRAMES TABLE. A comparison "takes" 3 ns:
// real algorithms, deterministic times.
#include <algorithm>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <functional>
#include <map>
#include <random>
#include <set>
#include <string>
#include <vector>

namespace {

using Numbers = std::vector<std::uint64_t>;

std::int64_t comparisons = 0;

bool less(std::uint64_t a, std::uint64_t b) {
  ++comparisons;
  return a < b;
}

struct Less {
  bool operator()(std::uint64_t a, std::uint64_t b) const { return less(a, b); }
};

void insertion(Numbers numbers) {
  for (std::size_t i = 1; i < numbers.size(); ++i)
    for (std::size_t j = i; j > 0 && less(numbers[j], numbers[j - 1]); --j) std::swap(numbers[j], numbers[j - 1]);
}

void heap(Numbers numbers) {
  std::make_heap(numbers.begin(), numbers.end(), less);
  std::sort_heap(numbers.begin(), numbers.end(), less);
}

void scan(const Numbers& numbers) {
  std::find_if(numbers.begin(), numbers.end(), [](std::uint64_t number) { return less(number, 0); });
}

void searches(Numbers numbers) {
  const Numbers wanted = numbers;
  std::sort(numbers.begin(), numbers.end());
  for (const std::uint64_t one : wanted) std::lower_bound(numbers.begin(), numbers.end(), one, less);
}

const std::map<std::string, std::function<void(const Numbers&)>> implementations{
    {"insertion", insertion},
    {"library", [](Numbers numbers) { std::sort(numbers.begin(), numbers.end(), less); }},
    {"stable", [](Numbers numbers) { std::stable_sort(numbers.begin(), numbers.end(), less); }},
    {"heap", heap},
    {"scan", scan},
    {"searches", searches},
    {"tree", [](const Numbers& numbers) { std::set<std::uint64_t, Less>(numbers.begin(), numbers.end()); }}};

}  // namespace

int main(int argc, char** argv) {
  if (argc != 6 || implementations.count(argv[1]) == 0) return 2;
  const long count = std::atol(argv[2]);
  std::mt19937_64 random(std::strtoull(argv[3], nullptr, 10));
  std::FILE* table = std::fopen(argv[5], "w");
  if (table == nullptr) return 3;
  std::fprintf(table, "frame_ms,alive,yardstick_us,outcome:numbers\n");
  for (long frame = 0; frame < std::atol(argv[4]); ++frame) {
    Numbers numbers(static_cast<std::size_t>(count));
    for (std::uint64_t& number : numbers) number = random();
    comparisons = 0;
    implementations.at(argv[1])(numbers);
    std::fprintf(table, "%.6f,%ld,15,%ld\n", static_cast<double>(comparisons) * 3e-6, count, count);
  }
  return std::fclose(table) == 0 ? 0 : 4;
}
