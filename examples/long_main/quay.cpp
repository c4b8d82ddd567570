// A program with a long main of its own: one line at its start makes it measurable with
//
//     mileage measure --program ./quay -o quay.study.jsonl
//
// It links mileage::core alone: no command line and no figures come with it.
#include <cstdio>
#include <memory>
#include <vector>

#include <mileage/measure/serve_runs.h>

namespace {

// Torches along the quay burn down and are lit again.
class Torches {
 public:
  explicit Torches(std::int64_t count) : left_s_(static_cast<std::size_t>(count), 60.0F) {}
  void burn(float step_s) {
    for (float& left : left_s_) left = left > step_s ? left - step_s : 60.0F;
  }
  std::int64_t size() const { return static_cast<std::int64_t>(left_s_.size()); }
  double mean_left_s() const {
    double sum = 0;
    for (const float left : left_s_) sum += left;
    return sum / static_cast<double>(left_s_.size());
  }

 private:
  std::vector<float> left_s_;
};

class TorchVariant : public mileage::Variant {
 public:
  explicit TorchVariant(const mileage::SetUp& set_up)
      : torches_(set_up.count), step_s_(static_cast<float>(set_up.step_s)) {}
  void run_frame(mileage::Frame&) override { torches_.burn(step_s_); }
  std::int64_t alive() const override { return torches_.size(); }
  mileage::Outcome outcome() const override {
    mileage::Outcome outcome;
    outcome.state("mean time left", torches_.mean_left_s(), 1e-4);
    return outcome;
  }

 private:
  Torches torches_;
  float step_s_;
};

mileage::Catalogue measurable() {
  mileage::Scenario scenario;
  scenario.name = "torches";
  scenario.note = "torches along the quay burn down";
  scenario.entities = "torches";
  scenario.build = mileage::build_of_this_file();
  mileage::Catalogue catalogue;
  catalogue.add(scenario);
  catalogue.add_variant("torches", {"array", "one array, one loop", {}, ""},
                        std::make_unique<TorchVariant, const mileage::SetUp&>);
  return catalogue;
}

}  // namespace

int main(int argc, char** argv) {
  if (const auto code = mileage::serve_runs(argc, argv, measurable())) return *code;

  std::puts("opening the window, loading the night ...");
  Torches torches(200);
  for (int frame = 0; frame < 600; ++frame) torches.burn(1.0F / 60.0F);
  std::printf("after 10 s the torches have %.1f s left\n", torches.mean_left_s());
  return 0;
}
