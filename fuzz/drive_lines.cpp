// A driven program may answer anything.
#include <sstream>
#include <vector>

#include "fuzz_target.h"
#include "measure/runners/drive_runner.h"
#include "study/run_check.h"
#include "types/error.h"

namespace {

using namespace mileage;

class Lines : public LineChannel {
 public:
  explicit Lines(const std::string& text) : lines_(text) {}
  bool send(const std::string&) override { return !closed_; }
  std::optional<std::string> receive(double) override {
    std::string line;
    if (closed_ || !std::getline(lines_, line)) return std::nullopt;
    return line;
  }
  bool is_closed() const override { return closed_; }
  void hang_up() override { closed_ = true; }

 private:
  std::istringstream lines_;
  bool closed_ = false;
};

}  // namespace

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  Lines lines(fuzz::text_of(data, size));
  SystemClock clock;
  DriveRunner runner(lines, {&clock, nullptr});
  try {
    const Scenario scenario = runner.describe().front();
    fuzz::must(!scenario.variants.empty(), "a program that was greeted has a variant");
    for (int i = 0; i < 4 && !runner.is_gone(); ++i) {
      const Run run = runner.run({scenario.name, {scenario.variants.front().name, {}}, 100, 7, 3, 1}, 1);
      fuzz::must(!fault_in(run), "a run that was taken is a run");
      fuzz::must((run.status == RunStatus::failed) == !run.failure.empty(), "a failed run has a reason");
    }
  } catch (const Error&) {}
  return 0;
}
