#include <memory>
#include <string>

#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <png.h>

#include "measure/loop/plan.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/measure_options.h"
#include "tool/output.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "types/notation.h"
#include "types/unmarked.h"
#include "views/answer_json.h"
#include "views/words.h"

namespace mileage {
namespace {

std::string png_of(const Picture& picture) {
  png_image image{};
  image.version = PNG_IMAGE_VERSION;
  image.width = static_cast<png_uint_32>(picture.width);
  image.height = static_cast<png_uint_32>(picture.height);
  image.format = PNG_FORMAT_RGB;
  png_alloc_size_t size = 0;
  png_image_write_to_memory(&image, nullptr, &size, 0, picture.pixels.data(), 0, nullptr);
  std::string bytes(size, '\0');
  if (png_image_write_to_memory(&image, bytes.data(), &size, 0, picture.pixels.data(), 0, nullptr) == 0)
    throw Error(
        {.kind = FaultKind::cannot_write, .problem = fmt::format("the picture cannot be made: {}", image.message)});
  bytes.resize(size);
  return bytes;
}

struct PictureOptions {
  MeasureOptions world;
  std::string output = "picture.png";
  int frames = 3;
};

/// One series and count.
Plan plan_of(const Scenario& scenario, const PictureOptions& options) {
  PlanRequest request = request_of(options.world);
  if (request.variants.empty())
    request.variants = {scenario.reference.empty() ? scenario.variants.front().name : scenario.reference};
  const Plan plan = make_plan(scenario, request);
  if (plan.series.size() != 1 || plan.counts.size() != 1)
    throw Error({.kind = FaultKind::usage,
                 .field = "picture",
                 .problem = "a picture is of one variant at one count with one value per knob"});
  return plan;
}

int take_picture(const PictureOptions& options, const Catalogue& catalogue) {
  const std::vector<Scenario> scenarios = catalogue.scenarios_here();
  const Scenario& scenario = scenario_named(options.world.scenario, scenarios);
  const Plan plan = plan_of(scenario, options);
  const std::string& name = plan.series.front().variant;
  const auto variant = (*catalogue.factory(scenario.name, name))(
      {plan.counts.front(), plan.seed, scenario.step_s, plan.series.front().knobs});
  Unmarked unmarked;
  Frame frame(unmarked);
  for (int i = 0; i < options.frames; ++i) variant->run_frame(frame);
  const Picture picture = variant->picture();
  if (picture.empty())
    throw Error({.kind = FaultKind::usage,
                 .field = "scenario",
                 .problem = "this scenario is not drawn",
                 .found = scenario.name});
  write_file(options.output, png_of(picture));
  if (options.world.json) {
    Json json = envelope("picture", {});
    json["picture"] = options.output;
    json["width"] = picture.width;
    json["height"] = picture.height;
    print(json);
  } else {
    print(fmt::format("picture  {} ({} x {}): {} {} drawn by `{}`, after {} frames\n", options.output, picture.width,
                      picture.height, count_text(static_cast<double>(plan.counts.front())), scenario.entities, name,
                      options.frames));
  }
  return exit_answered;
}

}  // namespace

void add_picture_verb(CommandLine& line, const Catalogue& catalogue) {
  auto options = std::make_shared<PictureOptions>();
  options->world.scenario = "draw";
  options->world.counts = "5k";
  Verb verb = line.add_verb("picture", "What a drawn scenario looks like",
                            "  mileage picture --scenario draw --count 5k -o lanterns.png\n"
                            "  mileage picture --variant large --knob min-height=20 --count 20k -o large.png\n",
                            [options, &catalogue] { return take_picture(*options, catalogue); });
  verb.option("--scenario", options->world.scenario, "what to draw");
  verb.option("--variant", options->world.variants, "by which variant (default: the reference)");
  verb.option("--count", options->world.counts, "how many entities");
  verb.option("--knob", options->world.knobs, "a knob's value: kinds=6");
  verb.option("--seed", options->world.seed, "of the world (default: 1)");
  verb.option("--frames", options->frames, 1, 100'000, "frames before the picture");
  verb.option("-o,--output", options->output, "the PNG file to write");
  verb.comes_back("  picture  lanterns.png (640 x 360): 5k lanterns drawn by `each`, after 3 frames\n");
  add_json(verb, options->world.json);
}

}  // namespace mileage
