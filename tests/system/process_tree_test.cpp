#include "system/process_tree.h"

#include <signal.h>
#include <sys/wait.h>
#include <unistd.h>

#include <chrono>
#include <cstdlib>
#include <cstring>
#include <thread>

#include <gtest/gtest.h>

namespace mileage {
namespace {

constexpr std::size_t block_bytes = 64 << 20;

/// A child with memory, and a grandchild that shares it.
class Family {
 public:
  Family() {
    child_ = ::fork();
    if (child_ != 0) return;
    ::setpgid(0, 0);
    void* block = std::malloc(block_bytes);
    std::memset(block, 1, block_bytes);
    ::fork();
    while (true) ::pause();
  }
  ~Family() {
    ::kill(-child_, SIGKILL);
    ::waitpid(child_, nullptr, 0);
  }
  pid_t child() const { return child_; }
  /// Ten seconds at most.
  bool is_complete() const {
    for (int i = 0; i < 500 && children_of(child_).empty(); ++i)
      std::this_thread::sleep_for(std::chrono::milliseconds(20));
    return children_of(child_).size() == 1;
  }

 private:
  pid_t child_ = -1;
};

TEST(ProcessTree, HoldsAllBelowAProcessAndSharedMemoryOnceWhereItMatters) {
  const Family family;
  ASSERT_TRUE(family.is_complete());
  EXPECT_EQ(children_of(::getpid()).count(family.child()), 1U);
  const double rough = resident_bytes_below(::getpid(), 1e12), exact = resident_bytes_below(::getpid(), 0);
  EXPECT_GT(rough, 2 * block_bytes) << "counted in both";
  EXPECT_GT(exact, block_bytes);
  EXPECT_LT(exact, 1.7 * block_bytes);
}

TEST(ProcessTree, OfAProcessThatIsGoneIsEmpty) {
  EXPECT_TRUE(children_of(1 << 30).empty());
  EXPECT_EQ(resident_bytes_below(1 << 30, 0), 0);
}

}  // namespace
}  // namespace mileage
