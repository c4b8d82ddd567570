// Variants that misbehave in every way.
#include <chrono>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <future>
#include <mutex>
#include <stdexcept>
#include <thread>

#include <unistd.h>

#include "mileage/measure/serve_runs.h"

namespace {

using Deed = void (*)();

/// Pid after loading; else 0.
pid_t loaded_by = 0;
void describe_processes() {}

class OddVariant : public mileage::Variant {
 public:
  OddVariant(Deed deed, std::int64_t count) : deed_(deed), count_(count) {}
  void run_frame(mileage::Frame& frame) override {
    std::this_thread::sleep_for(std::chrono::microseconds(200));
    if (deed_ == nullptr) frame.add("calls", 1e308);
    if (deed_ == describe_processes) {
      frame.add("loaded by", static_cast<double>(loaded_by));
      frame.add("made by", static_cast<double>(::getpid()));
    }
    if (++frame_ == 2 && deed_ != nullptr) deed_();
  }
  std::int64_t alive() const override { return count_; }
  mileage::Outcome outcome() const override { return {}; }

 private:
  Deed deed_;
  std::int64_t count_;
  int frame_ = 0;
};

void behave() {}
void throw_it() { throw std::runtime_error("the wick is wet"); }
void throw_in_worker() {
  std::thread([] { throw std::runtime_error("the wick of a worker is wet"); }).join();
}
void crash() {
  std::signal(SIGSEGV, SIG_DFL);  // Sanitizers have a handler of their own.
  std::raise(SIGSEGV);
}
void abort_it() { std::abort(); }
void leave() { std::exit(3); }
void hang() {
  while (true) std::this_thread::sleep_for(std::chrono::seconds(1));
}
void allocate() {
  for (int i = 0; i < 4000; ++i) {
    std::memset(std::malloc(1 << 20), 1, 1 << 20);
    std::this_thread::sleep_for(std::chrono::milliseconds(1));
  }
}
void throw_a_path() { throw std::runtime_error("cannot open /somewhere/private/wick.cfg"); }
void leave_a_child() {
  if (::fork() == 0) ::execlp("sleep", "sleep", "86125.25", static_cast<char*>(nullptr));
}
void leave_a_session() {
  if (::fork() == 0) {
    ::setsid();
    ::execlp("sleep", "sleep", "3", static_cast<char*>(nullptr));
  }
}
void leave_a_session_and_crash() {
  leave_a_session();
  crash();
}
void chatter() {
  for (int i = 0; i < 1000; ++i) std::printf("{\"not\":\"the answer\"}\n");
}

void add_variants(mileage::Catalogue& catalogue, const char* scenario) {
  const std::pair<const char*, Deed> deeds[] = {{"behaves", behave},
                                                {"throws", throw_it},
                                                {"worker-throws", throw_in_worker},
                                                {"crashes", crash},
                                                {"aborts", abort_it},
                                                {"leaves", leave},
                                                {"hangs", hang},
                                                {"chatters", chatter},
                                                {"allocates", allocate},
                                                {"throws-a-path", throw_a_path},
                                                {"leaves-a-child", leave_a_child},
                                                {"overflows", nullptr}};
  for (const auto& [name, deed] : deeds)
    catalogue.add_variant(scenario, {name, "", {}, ""}, [deed = deed](const mileage::SetUp& set_up) {
      return std::make_unique<OddVariant>(deed, set_up.count);
    });
}

#if defined(ODD_LOADS)
/// Another thread holds the lock for a millisecond per entity.
class WaitsForLock : public mileage::Variant {
 public:
  explicit WaitsForLock(const mileage::SetUp& set_up) : count_(set_up.count) {}
  void run_frame(mileage::Frame&) override {
    std::promise<void> is_held;
    std::thread holder([&] {
      const std::lock_guard held(lock_);
      is_held.set_value();
      std::this_thread::sleep_for(std::chrono::milliseconds(count_));
    });
    is_held.get_future().wait();
    { const std::lock_guard held(lock_); }
    holder.join();
  }
  std::int64_t alive() const override { return count_; }
  mileage::Outcome outcome() const override { return {}; }

 private:
  std::int64_t count_;
  std::mutex lock_;
};

/// 400 MB, 1 MB per ms.
void hoard() {
  for (int i = 0; i < 400; ++i) {
    std::memset(std::malloc(1 << 20), 1, 1 << 20);
    std::this_thread::sleep_for(std::chrono::milliseconds(1));
  }
}

void add_what_loads(mileage::Catalogue& catalogue) {
  mileage::Scenario scenario;
  for (const char* name : {"loaded", "unloadable", "endless", "hoarding"}) {
    scenario.name = name;
    catalogue.add(scenario);
    add_variants(catalogue, name);
    catalogue.add_variant(name, {"tells-processes", "", {}, ""}, [](const mileage::SetUp& set_up) {
      return std::make_unique<OddVariant>(describe_processes, set_up.count);
    });
  }
  for (const auto& [name, deed] : {std::pair{"leaves-a-session", leave_a_session},
                                   std::pair{"leaves-a-session-and-crashes", leave_a_session_and_crash}})
    catalogue.add_variant("loaded", {name, "", {}, ""}, [deed = deed](const mileage::SetUp& set_up) {
      return std::make_unique<OddVariant>(deed, set_up.count);
    });
  catalogue.add_variant("loaded", {"waits-for-lock", "", {}, ""}, mileage::make_world<WaitsForLock>);
  catalogue.prepare("loaded", [] { loaded_by = ::getpid(); });
  catalogue.prepare("endless", hang);
  catalogue.prepare("hoarding", hoard);
  catalogue.prepare("unloadable", [] { throw std::runtime_error("the level file is missing"); });
}
#endif

}  // namespace

int main(int argc, char** argv) {
  mileage::Catalogue catalogue;
  mileage::Scenario odd;
  odd.name = "odd";
  catalogue.add(odd);
#if defined(ODD_LOADS)
  add_what_loads(catalogue);
#endif
  add_variants(catalogue, "odd");
  if (const auto code = mileage::serve_runs(argc, argv, catalogue)) return *code;
  std::puts("an ordinary run");
  return 0;
}
