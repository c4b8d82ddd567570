// Variants of draw.
#pragma once

#include <memory>

#include "mileage/types/variant.h"

namespace mileage::device {

/// One call per lantern and part, with uniforms.
std::unique_ptr<Variant> make_draw_each(const SetUp& set_up);
/// With a mesh per lantern.
std::unique_ptr<Variant> make_draw_each_own(const SetUp& set_up);
/// One call per kind, part and batch of `per-call` lanterns, sent before it.
std::unique_ptr<Variant> make_draw_instanced(const SetUp& set_up);
/// All places sent at once; one call per kind and part.
std::unique_ptr<Variant> make_draw_instanced_all(const SetUp& set_up);
/// All places sent at once; one indirect call.
std::unique_ptr<Variant> make_draw_multi(const SetUp& set_up);
/// Places computed on the device: nothing is sent.
std::unique_ptr<Variant> make_draw_resident(const SetUp& set_up);
/// Lanterns of at least `min-height` pixels, selected on the processor.
std::unique_ptr<Variant> make_draw_large(const SetUp& set_up);
/// The same, selected by a compute pass.
std::unique_ptr<Variant> make_draw_large_device(const SetUp& set_up);
/// Coarser meshes with distance.
std::unique_ptr<Variant> make_draw_detail(const SetUp& set_up);

}  // namespace mileage::device
