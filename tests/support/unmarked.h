#pragma once

#include <map>
#include <string>
#include <vector>

#include "mileage/types/variant.h"

namespace mileage::testing_support {

class CountingSink : public FrameSink {
 public:
  void begin_phase(const char*) override {}
  void end_phase() override {}
  void add(const char* counter, double amount) override { counters[counter] += amount; }

  std::map<std::string, double> counters;
};

/// And phases, in order.
class PhaseSink : public CountingSink {
 public:
  void begin_phase(const char* name) override { phases.push_back(name); }

  std::vector<std::string> phases;
};

inline void run_frames(Variant& variant, int frames) {
  CountingSink sink;
  Frame frame(sink);
  for (int i = 0; i < frames; ++i) variant.run_frame(frame);
}

inline std::map<std::string, double> counters_of_a_frame(Variant& variant) {
  CountingSink sink;
  Frame frame(sink);
  variant.run_frame(frame);
  return sink.counters;
}

}  // namespace mileage::testing_support
