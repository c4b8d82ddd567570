// The ways to draw the lanterns.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::device {

/// One call per lantern and part, with its own uniforms.
std::unique_ptr<Variant> make_draw_each(const SetUp& set_up);
/// The same, and every lantern owns a copy of its mesh.
std::unique_ptr<Variant> make_draw_each_own(const SetUp& set_up);
/// One call per kind, part and batch of at most `per-call` lanterns, whose places are sent before it.
std::unique_ptr<Variant> make_draw_instanced(const SetUp& set_up);
/// All places are sent at once; one call per kind and part.
std::unique_ptr<Variant> make_draw_instanced_all(const SetUp& set_up);
/// All places are sent at once; one indirect call for all kinds and parts.
std::unique_ptr<Variant> make_draw_multi(const SetUp& set_up);
/// Lanterns live on the device, and its shader places them: nothing is sent.
std::unique_ptr<Variant> make_draw_resident(const SetUp& set_up);
/// Only lanterns of at least `min-height` pixels on the picture, chosen on the processor.
std::unique_ptr<Variant> make_draw_large(const SetUp& set_up);
/// The same, chosen by a compute pass that writes the indirect call.
std::unique_ptr<Variant> make_draw_large_device(const SetUp& set_up);
/// Coarser meshes with distance.
std::unique_ptr<Variant> make_draw_detail(const SetUp& set_up);

}  // namespace mileage::device
