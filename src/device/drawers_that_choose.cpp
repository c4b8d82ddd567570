// Drawers that choose which lanterns to draw, and how finely.
#include <algorithm>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include <epoxy/gl.h>

#include "device/drawer.h"

namespace mileage::device {
namespace {

/// Lanterns shrink over `fade_m` before the reach, and are left out beyond it.
struct Reach {
  explicit Reach(const Knobs& knobs)
      : reach_m(static_cast<float>(knobs.number("reach"))), fade_m(static_cast<float>(knobs.number("fade"))) {}

  std::optional<Look> look(const Afloat& lantern, float time_s) const {
    Look look{placed(lantern, time_s)};
    look.place.scale *= std::clamp((reach_m - distance_m(look.place)) / std::max(fade_m, 1e-3F), 0.0F, 1.0F);
    return look.place.scale > 0 ? std::optional(look) : std::nullopt;
  }

  float reach_m;
  float fade_m;
};

class NearDrawer : public Drawer {
 public:
  NearDrawer(DrawStage& stage, const Knobs& knobs)
      : Drawer(stage), reach_(knobs), places_(stage.context(), world().lanterns.size()) {}

  void draw(float time_s, Frame& frame) override {
    std::vector<std::int64_t> first_of_kind;
    {
      const auto phase = frame.phase("build");
      choose(time_s, first_of_kind);
    }
    places_.send_all(frame);
    const auto phase = frame.phase("submit");
    stage().use(Feed::instances, time_s);
    stage().bind(&places_.on_device());
    for (int kind = 0; kind < world().kinds; ++kind) {
      const std::int64_t first = first_of_kind[static_cast<std::size_t>(kind)];
      const std::int64_t count = first_of_kind[static_cast<std::size_t>(kind) + 1] - first;
      for (int part = 0; part < world().parts; ++part)
        stage().draw_instances(stage().range(kind, 0, part), first, count, places_.on_device(), frame);
    }
    frame.add("instances", static_cast<double>(places_.on_processor().size()));
  }

 private:
  void choose(float time_s, std::vector<std::int64_t>& first_of_kind) {
    std::vector<Placed>& places = places_.on_processor();
    places.clear();
    int kind = -1;
    for (const Afloat& lantern : world().lanterns) {
      for (; kind < static_cast<int>(lantern.kind); ++kind)
        first_of_kind.push_back(static_cast<std::int64_t>(places.size()));
      if (const auto look = reach_.look(lantern, time_s)) places.push_back(look->place);
    }
    while (first_of_kind.size() <= static_cast<std::size_t>(world().kinds))
      first_of_kind.push_back(static_cast<std::int64_t>(places.size()));
  }

  std::optional<Look> rule(const Afloat& lantern, float time_s) const override { return reach_.look(lantern, time_s); }

  Reach reach_;
  SentPlaces places_;
};

constexpr const char* near_shader = R"(
layout(std430, binding = 0) readonly buffer Lanterns { vec4 lantern[]; };
layout(std430, binding = 1) writeonly buffer Near { vec4 near[]; };
layout(std430, binding = 2) buffer Commands { uint command[]; };  // five words a line
layout(std430, binding = 3) readonly buffer Firsts { uint first_of_kind[]; };
uniform uint count;
uniform uint parts;
uniform float time;
uniform float reach;
uniform float fade;
uniform float viewer_z;

void main() {
  uint i = invocation();
  if (i >= count) return;
  vec4 p, q;
  place(lantern[2u * i], lantern[2u * i + 1u], time, p, q);
  p.w *= clamp((reach - length(vec2(p.x, p.z - viewer_z))) / max(fade, 1e-3), 0.0, 1.0);
  if (p.w <= 0.0) return;
  uint kind = uint(lantern[2u * i + 1u].w);
  uint place_in_kind = atomicAdd(command[kind * parts * 5u + 1u], 1u);
  for (uint part = 1u; part < parts; ++part) atomicAdd(command[(kind * parts + part) * 5u + 1u], 1u);
  uint to = first_of_kind[kind] + place_in_kind;
  near[2u * to] = p;
  near[2u * to + 1u] = q;
}
)";

class NearDeviceDrawer : public Drawer {
 public:
  NearDeviceDrawer(DrawStage& stage, const Knobs& knobs)
      : Drawer(stage),
        lines_(commands_without_instances(stage)),
        commands_(stage.context(), bytes_of(lines_), lines_.data()),
        lanterns_(stage.context(), static_cast<std::int64_t>(world().lanterns.size() * sizeof(Afloat)),
                  world().lanterns.data()),
        near_(stage.context(), lanterns_.bytes()),
        firsts_(stage.context(), 4 * world().kinds),
        program_(Program::compute(compute_preamble() + placed_in_shaders() + near_shader)),
        reach_(knobs),
        time_(program_.uniform("time")) {
    std::vector<std::uint32_t> firsts(world().first_of_kind.begin(), world().first_of_kind.end() - 1);
    firsts_.upload(0, firsts_.bytes(), firsts.data());
    program_.use();
    ::glUniform1ui(program_.uniform("count"), static_cast<unsigned>(world().lanterns.size()));
    ::glUniform1ui(program_.uniform("parts"), static_cast<unsigned>(world().parts));
    ::glUniform1f(program_.uniform("reach"), reach_.reach_m);
    ::glUniform1f(program_.uniform("fade"), reach_.fade_m);
    ::glUniform1f(program_.uniform("viewer_z"), viewer_z_m);
  }

  void draw(float time_s, Frame& frame) override {
    {
      const auto phase = frame.phase("upload");
      commands_.upload(0, bytes_of(lines_), lines_.data());
      frame.add("bytes uploaded", static_cast<double>(bytes_of(lines_)));
    }
    const auto phase = frame.phase("submit");
    lanterns_.bind_storage(0);
    near_.bind_storage(1);
    commands_.bind_storage(2);
    firsts_.bind_storage(3);
    program_.use();
    ::glUniform1f(time_, time_s);
    dispatch(program_, static_cast<std::int64_t>(world().lanterns.size()));
    ::glMemoryBarrier(GL_COMMAND_BARRIER_BIT | GL_VERTEX_ATTRIB_ARRAY_BARRIER_BIT);
    stage().use(Feed::instances, time_s);
    stage().bind(&near_);
    draw_commands(commands_, frame);
  }

 private:
  static std::vector<DrawCommand> commands_without_instances(const DrawStage& stage) {
    std::vector<DrawCommand> lines = commands_of(stage);
    for (DrawCommand& line : lines) line.instances = 0;
    return lines;
  }
  std::optional<Look> rule(const Afloat& lantern, float time_s) const override { return reach_.look(lantern, time_s); }

  std::vector<DrawCommand> lines_;
  Buffer commands_;
  Buffer lanterns_;
  Buffer near_;
  Buffer firsts_;
  Program program_;
  Reach reach_;
  int time_;
};

class DetailDrawer : public Drawer {
 public:
  DetailDrawer(DrawStage& stage, const Knobs& knobs)
      : Drawer(stage),
        finest_within_m_(static_cast<float>(knobs.number("finest"))),
        bins_(static_cast<std::size_t>(world().kinds * details)),
        places_(stage.context(), world().lanterns.size()) {}

  void draw(float time_s, Frame& frame) override {
    {
      const auto phase = frame.phase("build");
      sort_by_kind_and_detail(time_s);
    }
    places_.send_all(frame);
    const auto phase = frame.phase("submit");
    stage().use(Feed::instances, time_s);
    stage().bind(&places_.on_device());
    std::int64_t first = 0;
    for (std::size_t bin = 0; bin < bins_.size(); ++bin) {
      const auto count = static_cast<std::int64_t>(bins_[bin].size());
      for (int part = 0; part < world().parts; ++part)
        stage().draw_instances(stage().range(static_cast<int>(bin) / details, static_cast<int>(bin) % details, part),
                               first, count, places_.on_device(), frame);
      first += count;
    }
    frame.add("instances", static_cast<double>(first));
  }

 private:
  void sort_by_kind_and_detail(float time_s) {
    for (auto& bin : bins_) bin.clear();
    for (const Afloat& lantern : world().lanterns) {
      const Placed place = placed(lantern, time_s);
      bins_[static_cast<std::size_t>(static_cast<int>(lantern.kind) * details + detail_of(distance_m(place)))]
          .push_back(place);
    }
    auto to = places_.on_processor().begin();
    for (const auto& bin : bins_) to = std::copy(bin.begin(), bin.end(), to);
  }

  std::optional<Look> rule(const Afloat& lantern, float time_s) const override {
    const Placed place = placed(lantern, time_s);
    return Look{place, detail_of(distance_m(place))};
  }

  /// The finest up to a distance, then half as fine for every doubling of it.
  int detail_of(float away_m) const {
    int detail = 0;
    for (float within = finest_within_m_; away_m > within && detail + 1 < details; within *= 2) ++detail;
    return detail;
  }

  float finest_within_m_;
  std::vector<std::vector<Placed>> bins_;
  SentPlaces places_;
};

}  // namespace

std::unique_ptr<Drawer> make_near_drawer(DrawStage& stage, const Knobs& knobs) {
  return std::make_unique<NearDrawer>(stage, knobs);
}

std::unique_ptr<Drawer> make_near_device_drawer(DrawStage& stage, const Knobs& knobs) {
  return std::make_unique<NearDeviceDrawer>(stage, knobs);
}

std::unique_ptr<Drawer> make_detail_drawer(DrawStage& stage, const Knobs& knobs) {
  return std::make_unique<DetailDrawer>(stage, knobs);
}

}  // namespace mileage::device
