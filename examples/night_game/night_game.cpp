// A small game that knows nothing of Mileage but the two recorder headers: lanterns drift on a river through a night,
// updated in one of two ways. It has its own loop, its own options and its own main.
//
//   night_game --way linked --lanterns 5000 --frames 300 --table night.csv     records itself
//   night_game ... --arrive 200                                               200 of them come after a third of it
//   night_game --drive 127.0.0.1:7300                                         shows what `mileage drive` asks for

#include "mileage/framelog.h"

#include "mileage/drive.h"

#include <cmath>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <memory>
#include <string>
#include <vector>

namespace {

struct Options {
  std::string way = "linked";
  long lanterns = 1000;
  long arrive = 0;
  unsigned long seed = 1;
  long frames = 300;
  std::string table;
  std::string drive;
};

/// Linear congruential generator in [0, 1).
class Chances {
 public:
  explicit Chances(unsigned long seed) : state_(seed * 2654435761UL + 12345) {}
  float next() {
    state_ = state_ * 6364136223846793005ULL + 1442695040888963407ULL;
    return static_cast<float>(state_ >> 40) * (1.0F / 16777216.0F);
  }

 private:
  std::uint64_t state_;
};

constexpr float step_s = 1.0F / 60;
constexpr float river_m = 200;

/// One frame: the current moves it, its flame flickers.
inline void drift(float& along, float& across, float& speed, float& glow) {
  const float pull = 1.2F + 0.4F * across * (1 - across * across);
  speed += (pull - speed) * 0.8F * step_s;
  along += speed * step_s;
  along -= river_m * static_cast<float>(static_cast<int>(along * (1 / river_m)));  // Branch-free.
  across += (0.3F - across) * 0.05F * speed * step_s;
  glow += (0.6F - glow + 0.2F * speed * across) * step_s;
}

class Night {
 public:
  virtual ~Night() = default;
  virtual void update() = 0;
  virtual void add(long count) = 0;
  virtual long alive() const = 0;
  virtual double mean_along() const = 0;
  virtual double mean_glow() const = 0;
};

/// Linked nodes.
class LinkedNight : public Night {
 public:
  LinkedNight(long count, unsigned long seed) : chances_(seed) { LinkedNight::add(count); }
  /// Iteratively: recursion would exhaust the stack.
  ~LinkedNight() override {
    while (first_) first_ = std::move(first_->next);
  }

  void add(long count) override {
    for (long i = 0; i < count; ++i) {
      auto node = std::make_unique<Node>();
      node->along = river_m * chances_.next();
      node->across = 2 * chances_.next() - 1;
      node->speed = chances_.next();
      node->glow = chances_.next();
      node->next = std::move(first_);
      first_ = std::move(node);
    }
  }
  void update() override {
    for (Node* node = first_.get(); node != nullptr; node = node->next.get()) node->update();
  }
  long alive() const override {
    long count = 0;
    for (const Node* node = first_.get(); node != nullptr; node = node->next.get()) ++count;
    return count;
  }
  double mean_along() const override {
    double sum = 0;
    for (const Node* node = first_.get(); node != nullptr; node = node->next.get()) sum += node->along;
    return sum / static_cast<double>(alive());
  }
  double mean_glow() const override {
    double sum = 0;
    for (const Node* node = first_.get(); node != nullptr; node = node->next.get()) sum += node->glow;
    return sum / static_cast<double>(alive());
  }

 private:
  struct Node {
    virtual ~Node() = default;
    virtual void update() { drift(along, across, speed, glow); }
    float along, across, speed, glow;
    char name[64] = "lantern";
    std::unique_ptr<Node> next;
  };

  Chances chances_;
  std::unique_ptr<Node> first_;
};

/// One array per field.
class ColumnsNight : public Night {
 public:
  ColumnsNight(long count, unsigned long seed) : chances_(seed) { ColumnsNight::add(count); }

  void add(long count) override {
    for (long i = 0; i < count; ++i) {
      along_.push_back(river_m * chances_.next());
      across_.push_back(2 * chances_.next() - 1);
      speed_.push_back(chances_.next());
      glow_.push_back(chances_.next());
    }
  }
  void update() override {
    for (std::size_t i = 0; i < along_.size(); ++i) drift(along_[i], across_[i], speed_[i], glow_[i]);
  }
  long alive() const override { return static_cast<long>(along_.size()); }
  double mean_along() const override { return mean(along_); }
  double mean_glow() const override { return mean(glow_); }

 private:
  static double mean(const std::vector<float>& column) {
    double sum = 0;
    for (const float value : column) sum += value;
    return sum / static_cast<double>(column.size());
  }

  Chances chances_;
  std::vector<float> along_, across_, speed_, glow_;
};

std::unique_ptr<Night> night_of(const Options& options) {
  const long afloat = options.lanterns - options.arrive;
  if (options.way == "linked") return std::make_unique<LinkedNight>(afloat, options.seed);
  if (options.way == "columns") return std::make_unique<ColumnsNight>(afloat, options.seed);
  std::fprintf(stderr, "night_game: no such way: %s (linked or columns)\n", options.way.c_str());
  std::exit(2);
}

Options read_options(int argc, char** argv) {
  Options options;
  for (int i = 1; i + 1 < argc; i += 2) {
    const std::string name = argv[i];
    const char* value = argv[i + 1];
    if (name == "--way")
      options.way = value;
    else if (name == "--lanterns")
      options.lanterns = std::atol(value);
    else if (name == "--arrive")
      options.arrive = std::atol(value);
    else if (name == "--seed")
      options.seed = std::strtoul(value, nullptr, 10);
    else if (name == "--frames")
      options.frames = std::atol(value);
    else if (name == "--table")
      options.table = value;
    else if (name == "--drive")
      options.drive = value;
    else {
      std::fprintf(stderr, "night_game: no such option: %s\n", name.c_str());
      std::exit(2);
    }
  }
  return options;
}

int record(const Options& options) {
  mileage::FrameLog log(options.table.c_str(), options.frames);
  if (!log.is_open()) {
    std::fprintf(stderr, "night_game: cannot write %s\n", options.table.c_str());
    return 2;
  }
  const int drifting = log.phase("drift");
  const int updates = log.counter("updates");
  const int along = log.outcome("mean along");
  const int glow = log.outcome("mean glow");

  const auto night = night_of(options);
  log.alive(night->alive());
  long afloat = options.lanterns - options.arrive;
  for (long shown = 0; !log.done(); ++shown) {
    const auto frame = log.frame();
    const auto phase = log.in_phase(drifting);
    if (shown == options.frames / 3) {
      night->add(options.arrive);
      log.alive(afloat = options.lanterns);
    }
    night->update();
    log.add(updates, static_cast<double>(afloat));
  }
  log.alive(night->alive());
  log.state(along, night->mean_along());
  log.state(glow, night->mean_glow());
  std::printf("the night is over after %ld frames; %ld lanterns are alight\n", options.frames, night->alive());
  return log.close() ? 0 : 3;
}

int be_driven(const Options& options) {
  static const char* const implementations[] = {"linked", "columns"};
  drive link;
  if (drive_open(&link, options.drive.c_str(), "night", "lanterns", implementations, 2, 1'000'000) != 0) {
    std::fprintf(stderr, "night_game: nobody drives at %s\n", options.drive.c_str());
    return 2;
  }
  int told = 0;
  while ((told = drive_next(&link)) == 1) {
    Options night_options = options;
    night_options.way = link.variant;
    night_options.lanterns = static_cast<long>(link.count);
    night_options.arrive = static_cast<long>(link.arrive);
    night_options.seed = static_cast<unsigned long>(link.seed);
    const auto night = night_of(night_options);
    while (!drive_done(&link)) {
      const long arriving = static_cast<long>(drive_arriving(&link));
      const std::uint64_t start = framelog_now_ns();
      night->add(arriving);
      night->update();
      drive_frame(&link, static_cast<double>(framelog_now_ns() - start) * 1e-6);
    }
    drive_alive(&link, night->alive());
  }
  drive_close(&link);
  return told == 0 ? 0 : 3;
}

}  // namespace

int main(int argc, char** argv) {
  const Options options = read_options(argc, argv);
  return options.drive.empty() ? record(options) : be_driven(options);
}
