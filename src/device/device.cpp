#include "mileage/device/device.h"

#include <fmt/format.h>

#include "device/context.h"
#include "device/draw_world.h"
#include "device/draw_variants.h"
#include "device/drift_compute.h"
#include "device/night_show.h"
#include "types/error.h"

namespace mileage {
namespace {

/// Whether there is a device, and which; asked once a process.
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
                       "frames handed to the device before the first is waited for: 1 latency, 3 throughput", 1, 1, 3);
}

void add_compute_of_drift(Catalogue& catalogue) {
  catalogue.add_variant("drift", {"compute", "columns that live on the graphics device", {in_flight_knob()}, ""},
                        device::make_drift_compute, look_for_device);
  catalogue.add_variant("drift", {"compute-readback", "on the graphics device, copied back every frame", {}, ""},
                        device::make_drift_compute_readback, look_for_device);
  catalogue.add_variant("drift", {"compute-upload", "sent to the graphics device and copied back every frame", {}, ""},
                        device::make_drift_compute_upload, look_for_device);
}

Knob kinds_knob() { return Knob::integer("kinds", "kinds of lanterns, each with its own mesh", 3, 1, 64).dividing(); }

Knob size_knob() { return Knob::real("size", "how large they are, against usual ones", 1, 0.1, 10); }

Scenario draw_scenario() {
  Scenario draw;
  draw.name = "draw";
  draw.note = "lanterns of several kinds are drawn from a bridge, off screen at 1280 x 720";
  draw.entities = "lanterns";
  draw.knobs = {kinds_knob(), Knob::integer("parts", "calls that one lantern needs", 1, 1, 16), size_knob(),
                Knob::real("view", "share of the lanterns that the viewer sees", 1, 0, 1), in_flight_knob()};
  draw.reference = "each";
  draw.build = build_of_this_file();
  return draw;
}

void add_draw(Catalogue& catalogue) {
  catalogue.add(draw_scenario());
  const Knob least_height =
      Knob::real("least-height", "lanterns less high on the picture are left out", 12, 0, device::picture_height)
          .in("px");
  const auto add = [&](VariantFacts facts, Factory factory) {
    catalogue.add_variant("draw", std::move(facts), std::move(factory), look_for_device);
  };
  add({"each", "one call per lantern with its own uniforms", {}, ""}, device::make_draw_each);
  add({"each-own", "one call per lantern, and every lantern owns a copy of its mesh", {}, ""},
      device::make_draw_each_own);
  add({"instanced",
       "one call per kind and batch, places sent once a batch",
       {Knob::integer("per-call", "most lanterns in a call", 512, 1, 1'000'000)},
       ""},
      device::make_draw_instanced);
  add({"instanced-all", "all places sent at once, one call per kind", {}, ""}, device::make_draw_instanced_all);
  add({"multi-draw", "all places sent at once, one indirect call for all kinds", {}, ""}, device::make_draw_multi);
  add({"resident", "lanterns live on the device, its shader places them", {}, ""}, device::make_draw_resident);
  add({"large",
       "only what is high enough on the picture, chosen on the processor",
       {least_height},
       "",
       "",
       false,
       true,
       true},
      device::make_draw_large);
  add({"large-device",
       "only what is high enough on the picture, chosen by a compute pass",
       {least_height},
       "",
       "",
       false,
       true,
       true},
      device::make_draw_large_device);
  add({"detail",
       "coarser meshes with distance",
       {Knob::real("finest", "up to here meshes are the finest", 20, 1, 1000).in("m")},
       "",
       "",
       false,
       true,
       false},
      device::make_draw_detail);
}

void add_night_show(Catalogue& catalogue) {
  Scenario show;
  show.name = "night-show";
  show.note = "lanterns are carried by wind and water, and drawn where they are";
  show.entities = "lanterns";
  show.knobs = {kinds_knob(), size_knob(), Knob::integer("work", "inner steps per lantern and frame", 1, 1, 10'000),
                in_flight_knob()};
  show.reference = "columns";
  show.build = build_of_this_file();
  catalogue.add(show);
  catalogue.add_variant("night-show",
                        {"columns", "carried on the processor, places sent to the device every frame", {}, ""},
                        device::make_show_columns, look_for_device);
  catalogue.add_variant("night-show", {"compute", "carried, placed and drawn on the device; nothing leaves it", {}, ""},
                        device::make_show_compute, look_for_device);
  catalogue.add_variant(
      "night-show", {"round-trip", "carried on the device, read back, placed on the processor and sent again", {}, ""},
      device::make_show_round_trip, look_for_device);
}

}  // namespace

void add_device(Catalogue& catalogue) {
  add_compute_of_drift(catalogue);
  add_draw(catalogue);
  add_night_show(catalogue);
}

}  // namespace mileage
