#include "festival/implementations.h"

#include <algorithm>
#include <thread>

namespace mileage::festival {

Build festival_build() {
  Build build = build_of_this_file();
  build.flags = MILEAGE_FESTIVAL_FLAGS;
  return build;
}

std::vector<Knob> job_knobs(const char* things, std::int64_t batch) {
  const auto cores = static_cast<std::int64_t>(std::max(1U, std::thread::hardware_concurrency()));
  return {
      Knob::integer("workers", "threads that share the batches (default: all cores)",
                    {.default_value = cores, .min = 1, .max = 256}),
      Knob::integer("batch", std::string(things) + " per batch", {.default_value = batch, .min = 1, .max = 1'000'000})};
}

void add_implementation(Catalogue& catalogue, const std::string& scenario, Implementation one,
                        AvailabilityCheck check_availability, Starter starter) {
  VariantFacts facts;
  facts.name = one.name;
  facts.note = one.note;
  facts.effort = one.effort;
  facts.lines = one.lines;
  facts.knobs = std::move(one.knobs);
  facts.approximate = one.approximate;
  facts.may_skip = one.may_skip;
  facts.stubs = std::move(one.stubs);
  catalogue.add_variant(scenario, std::move(facts), std::move(one.factory), std::move(check_availability),
                        std::move(starter));
}

BundledScenario::BundledScenario(Catalogue& catalogue, const char* name, const char* note, const char* entities,
                                 std::vector<Knob> knobs, const char* reference, std::vector<Expectation> expects)
    : catalogue_(catalogue), name_(name) {
  Scenario scenario;
  scenario.name = name;
  scenario.note = note;
  scenario.entities = entities;
  scenario.knobs = std::move(knobs);
  scenario.reference = reference;
  scenario.expects = std::move(expects);
  scenario.build = festival_build();
  catalogue.add(std::move(scenario));
}

}  // namespace mileage::festival
