#include "mileage/device/device.h"

#include <utility>

#include <fmt/format.h>

#include "device/context.h"
#include "device/draw_variants.h"
#include "device/draw_world.h"
#include "device/drift_compute.h"
#include "device/jostle_compute.h"
#include "device/lantern_meshes.h"
#include "device/night_show.h"
#include "device/sizes.h"
#include "festival/scenarios.h"
#include "festival/implementations.h"
#include "types/error.h"

namespace mileage {
namespace {

/// Once per process.
void look_for_device(VariantFacts& facts) {
  struct Found {
    std::string unavailable;
    device::DeviceFacts device;
  };
  static const Found found = [] {
    Found answer;
    try {
      answer.device = device::Context().facts();
    } catch (const Error& error) {
      answer.unavailable = error.what();
    }
    return answer;
  }();
  facts.unavailable = found.unavailable;
  if (!found.unavailable.empty()) return;
  facts.device = fmt::format("{}, {}", found.device.name, found.device.driver);
  facts.software_device = found.device.software;
}

Knob in_flight_knob() {
  return Knob::integer("in-flight",
                       "frames handed to the device before the first is waited for: 1 latency, 3 throughput",
                       {.default_value = 1, .min = 1, .max = 3});
}

void add_device_implementation(Catalogue& catalogue, const char* scenario, festival::Implementation one) {
  festival::add_implementation(catalogue, scenario, std::move(one), look_for_device,
                               [] { const device::Context once; });
}

void add_compute_of_drift(Catalogue& catalogue) {
  const auto add = [&](festival::Implementation one) { add_device_implementation(catalogue, "drift", std::move(one)); };
  const std::int64_t lines = device::sizes::drift_compute;
  add({"compute",
       "columns that live on the graphics device",
       "the update in a second language; lanterns out of reach",
       lines,
       device::make_drift_compute,
       {in_flight_knob()}});
  add({"compute-readback", "on the graphics device, copied back every frame",
       "the update in a second language; waiting for the device", lines, device::make_drift_compute_readback});
  add({"compute-upload", "sent to the graphics device and copied back every frame",
       "the update in a second language; columns at hand for both", lines, device::make_drift_compute_upload});
}

void add_compute_of_jostle(Catalogue& catalogue) {
  add_device_implementation(catalogue, "jostle",
                            {.name = "compute",
                             .note = "on the graphics device: chains of cells, every lantern checks all its neighbours",
                             .effort = "pairs and moving in a second language; lanterns out of reach",
                             .lines = device::sizes::jostle_compute,
                             .factory = device::make_jostle_compute,
                             .knobs = {festival::jostle_cell_knob()},
                             .may_skip = true});
}

Knob kinds_knob() {
  return Knob::integer("kinds", "kinds of lanterns, each with its own mesh", {.default_value = 3, .min = 1, .max = 64})
      .splitting_count();
}

Knob size_knob() {
  return Knob::real("size", "how large they are, against usual ones", {.default_value = 1, .min = 0.1, .max = 10});
}

Knob facets_knob() {
  return Knob::integer("facets", "triangles of a lantern, at most: 2 a petal of paper, from 12 on with a body",
                       {.default_value = 2, .min = 2, .max = device::max_facets});
}

Knob pixels_knob() {
  return Knob::choice("pixels", "size of the picture: parts what pixels cost from what calls and triangles cost",
                      device::picture_sizes());
}

Scenario draw_scenario() {
  Scenario draw;
  draw.name = "draw";
  draw.note = "lanterns of several kinds are drawn from a bridge, off screen";
  draw.entities = "lanterns";
  draw.knobs = {
      kinds_knob(),
      Knob::integer("parts", "calls that one lantern needs", {.default_value = 1, .min = 1, .max = 16}),
      facets_knob(),
      pixels_knob(),
      size_knob(),
      Knob::real("view", "share of the lanterns that the viewer sees", {.default_value = 1, .min = 0, .max = 1}),
      Knob::real("single", "share of the lanterns that cannot be drawn together with others",
                 {.default_value = 0, .min = 0, .max = 1}),
      Knob::real("regroup", "share of the lanterns that become another kind in each frame",
                 {.default_value = 0, .min = 0, .max = 1}),
      in_flight_knob()};
  draw.reference = "each";
  draw.build = build_of_this_file();
  return draw;
}

void add_draw(Catalogue& catalogue) {
  catalogue.add(draw_scenario());
  const Knob min_height = Knob::real("min-height", "lanterns less high on the picture are skipped",
                                     {.default_value = 6, .min = 0, .max = 1080, .unit = "px"});
  const Knob payload = Knob::integer("payload", "bytes that an instance takes; a place needs 32, more travel with it",
                                     {.default_value = 32, .min = 32, .max = 1024, .unit = "bytes"});
  const auto add = [&](festival::Implementation one) { add_device_implementation(catalogue, "draw", std::move(one)); };
  add({"each", "one call per lantern with its own uniforms", "none: code as it grew", 0, device::make_draw_each});
  add({"each-own", "one call per lantern, and every lantern owns a copy of its mesh", "memory for copies", 0,
       device::make_draw_each_own});
  add({"instanced",
       "one call per kind and batch, places sent once a batch",
       "lanterns of a kind share a mesh, and lie together",
       0,
       device::make_draw_instanced,
       {Knob::integer("per-call", "most lanterns in a call", {.default_value = 512, .min = 1, .max = 1'000'000}),
        payload}});
  add({"instanced-all",
       "all places sent at once, one call per kind",
       "lanterns of a kind share a mesh, and lie together",
       0,
       device::make_draw_instanced_all,
       {payload}});
  add({"multi-draw",
       "all places sent at once, one indirect call for all kinds",
       "all meshes in one buffer, all kinds drawn by one program",
       0,
       device::make_draw_multi,
       {payload}});
  add({"resident", "lanterns live on the device, its shader places them",
       "their movement in the shader; changes must be sent", 0, device::make_draw_resident});
  add({"large",
       "only what is high enough on the picture, chosen on the processor",
       "a picture that lacks small lanterns",
       0,
       device::make_draw_large,
       {min_height, payload},
       true,
       true});
  add({"large-device",
       "only what is high enough on the picture, chosen by a compute pass",
       "a picture that lacks small lanterns; a pass of compute that writes calls",
       0,
       device::make_draw_large_device,
       {min_height},
       true,
       true});
  add({"detail",
       "coarser meshes with distance",
       "several meshes for each kind",
       0,
       device::make_draw_detail,
       {Knob::real("finest", "up to here meshes are the finest",
                   {.default_value = 20, .min = 1, .max = 1000, .unit = "m"}),
        payload},
       true,
       false});
}

void add_night_show(Catalogue& catalogue) {
  Scenario show;
  show.name = "night-show";
  show.note = "lanterns are carried by wind and water, and drawn where they are";
  show.entities = "lanterns";
  show.knobs = {
      kinds_knob(),
      facets_knob(),
      pixels_knob(),
      size_knob(),
      Knob::integer("work", "inner steps per lantern and frame", {.default_value = 1, .min = 1, .max = 10'000}),
      in_flight_knob()};
  show.reference = "columns";
  show.build = build_of_this_file();
  catalogue.add(show);
  const auto add = [&](festival::Implementation one) {
    add_device_implementation(catalogue, "night-show", std::move(one));
  };
  add({"columns", "carried on the processor, places sent to the device every frame",
       "lanterns as columns, and a copy of their places", 0, device::make_show_columns});
  add({"compute", "carried, placed and drawn on the device; nothing leaves it",
       "the update in a second language; lanterns out of reach", 0, device::make_show_compute});
  add({"round-trip", "carried on the device, read back, placed on the processor and sent again",
       "the update in a second language; waiting for the device", 0, device::make_show_round_trip});
}

}  // namespace

void add_device(Catalogue& catalogue) {
  add_compute_of_drift(catalogue);
  add_compute_of_jostle(catalogue);
  add_draw(catalogue);
  add_night_show(catalogue);
}

}  // namespace mileage
