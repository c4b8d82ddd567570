#include <algorithm>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include <epoxy/gl.h>

#include "device/drawer.h"
#include "device/lantern_meshes.h"

namespace mileage::device {
namespace {

/// Excludes small lanterns and those behind the viewer.
class LeastHeight {
 public:
  LeastHeight(const Knobs& knobs, const DrawWorld& world) : min_px_(static_cast<float>(knobs.number("min-height"))) {
    for (int kind = 0; kind < world.kinds; ++kind)
      px_at_1m_.push_back(height_px_at_1m(world.size) * lantern_height_m(kind));
  }

  std::optional<Look> look(const Afloat& lantern, float time_s) const {
    const Look look{placed(lantern, time_s)};
    const float ahead_m = look.place.z_m - viewer_z_m;
    const float px_at_1m = px_at_1m_[static_cast<std::size_t>(lantern.kind)] * look.place.scale;
    return ahead_m > 0 && px_at_1m >= min_px_ * ahead_m ? std::optional(look) : std::nullopt;
  }

  float min_px() const { return min_px_; }
  /// By kind, at scale 1 and one metre.
  const std::vector<float>& px_at_1m() const { return px_at_1m_; }

 private:
  float min_px_;
  std::vector<float> px_at_1m_;
};

class LargeDrawer : public Drawer {
 public:
  LargeDrawer(DrawStage& stage, const Knobs& knobs)
      : Drawer(stage), min_(knobs, world()), places_(stage.context(), together(world()), bytes_of_instance(knobs)) {}

  void draw(float time_s, Frame& frame) override {
    std::vector<std::int64_t> first_of_kind;
    {
      const auto phase = frame.phase("build");
      choose(time_s, first_of_kind);
    }
    places_.send_all(frame);
    submit(first_of_kind, time_s, frame);
    draw_singles(time_s, frame);
    frame.add("instances", static_cast<double>(places_.on_processor().size()));
  }

 private:
  void submit(const std::vector<std::int64_t>& first_of_kind, float time_s, Frame& frame) {
    const auto phase = frame.phase("submit");
    stage().use(Feed::instances, time_s);
    stage().bind(&places_.on_device(), places_.stride());
    for (int kind = 0; kind < world().kinds; ++kind) {
      const std::int64_t first = first_of_kind[static_cast<std::size_t>(kind)];
      const std::int64_t count = first_of_kind[static_cast<std::size_t>(kind) + 1] - first;
      for (int part = 0; part < world().parts; ++part)
        stage().draw_instances(stage().range(kind, 0, part), first, count, places_.on_device(), frame,
                               places_.stride());
    }
  }

  void choose(float time_s, std::vector<std::int64_t>& first_of_kind) {
    std::vector<Placed>& places = places_.on_processor();
    places.clear();
    int kind = -1;
    for (std::size_t i = 0; i < together(world()); ++i) {
      const Afloat& lantern = world().lanterns[i];
      for (; kind < static_cast<int>(lantern.kind); ++kind)
        first_of_kind.push_back(static_cast<std::int64_t>(places.size()));
      if (const auto look = min_.look(lantern, time_s)) places.push_back(look->place);
    }
    while (first_of_kind.size() <= static_cast<std::size_t>(world().kinds))
      first_of_kind.push_back(static_cast<std::int64_t>(places.size()));
  }

  std::optional<Look> rule(const Afloat& lantern, float time_s) const override { return min_.look(lantern, time_s); }

  LeastHeight min_;
  SentPlaces places_;
};

constexpr const char* large_shader = R"(
layout(std430, binding = 0) readonly buffer Lanterns { vec4 lantern[]; };
layout(std430, binding = 1) writeonly buffer Large { vec4 large[]; };
layout(std430, binding = 2) buffer Commands { uint command[]; };  // Five words each.
layout(std430, binding = 3) readonly buffer Firsts { uint first_of_kind[]; };
layout(std430, binding = 4) readonly buffer Heights { float px_at_1m[]; };
uniform uint count;
uniform uint parts;
uniform float time;
uniform float least_px;
uniform float viewer_z;

void main() {
  uint i = invocation();
  if (i >= count) return;
  vec4 p, q;
  place(lantern[2u * i], lantern[2u * i + 1u], time, p, q);
  uint kind = uint(lantern[2u * i + 1u].w);
  float ahead = p.z - viewer_z;
  if (ahead <= 0.0 || px_at_1m[kind] * p.w < least_px * ahead) return;
  uint place_in_kind = atomicAdd(command[kind * parts * 5u + 1u], 1u);
  for (uint part = 1u; part < parts; ++part) atomicAdd(command[(kind * parts + part) * 5u + 1u], 1u);
  uint to = first_of_kind[kind] + place_in_kind;
  large[2u * to] = p;
  large[2u * to + 1u] = q;
}
)";

class LargeDeviceDrawer : public Drawer {
 public:
  LargeDeviceDrawer(DrawStage& stage, const Knobs& knobs)
      : Drawer(stage),
        lines_(commands_without_instances(stage)),
        commands_(stage.context(), bytes_of(lines_), lines_.data()),
        lanterns_(stage.context(), bytes_together(world()), world().lanterns.data()),
        large_(stage.context(), lanterns_.bytes()),
        firsts_(stage.context(), 4 * world().kinds),
        program_(Program::compute(compute_preamble() + placed_in_shaders() + large_shader)),
        min_(knobs, world()),
        heights_(stage.context(), 4 * world().kinds, min_.px_at_1m().data()),
        time_(program_.uniform("time")) {
    send_firsts();
    program_.use();
    ::glUniform1ui(program_.uniform("count"), static_cast<unsigned>(world().first_single()));
    ::glUniform1ui(program_.uniform("parts"), static_cast<unsigned>(world().parts));
    ::glUniform1f(program_.uniform("least_px"), min_.min_px());
    ::glUniform1f(program_.uniform("viewer_z"), viewer_z_m);
  }

  void draw(float time_s, Frame& frame) override {
    {
      const auto phase = frame.phase("upload");
      commands_.upload(0, bytes_of(lines_), lines_.data());
      frame.add("bytes uploaded", static_cast<double>(bytes_of(lines_)));
    }
    choose_and_submit(time_s, frame);
    draw_singles(time_s, frame);
  }

  void regroup(Frame& frame) override {
    Drawer::regroup(frame);
    lines_ = commands_without_instances(stage());
    send_lanterns(lanterns_, world(), frame);
    send_firsts();
  }

 private:
  void choose_and_submit(float time_s, Frame& frame) {
    if (together(world()) == 0) return;
    const auto phase = frame.phase("submit");
    lanterns_.bind_storage(0);
    large_.bind_storage(1);
    commands_.bind_storage(2);
    firsts_.bind_storage(3);
    heights_.bind_storage(4);
    program_.use();
    ::glUniform1f(time_, time_s);
    dispatch(program_, world().first_single());
    ::glMemoryBarrier(GL_COMMAND_BARRIER_BIT | GL_VERTEX_ATTRIB_ARRAY_BARRIER_BIT);
    stage().use(Feed::instances, time_s);
    stage().bind(&large_);
    draw_commands(commands_, frame);
  }

  void send_firsts() {
    const std::vector<std::uint32_t> firsts(world().first_of_kind.begin(), world().first_of_kind.end() - 1);
    firsts_.upload(0, firsts_.bytes(), firsts.data());
  }

  static std::vector<DrawCommand> commands_without_instances(const DrawStage& stage) {
    std::vector<DrawCommand> lines = commands_of(stage);
    for (DrawCommand& line : lines) line.instances = 0;
    return lines;
  }
  std::optional<Look> rule(const Afloat& lantern, float time_s) const override { return min_.look(lantern, time_s); }

  std::vector<DrawCommand> lines_;
  Buffer commands_;
  Buffer lanterns_;
  Buffer large_;
  Buffer firsts_;
  Program program_;
  LeastHeight min_;
  Buffer heights_;
  int time_;
};

class DetailDrawer : public Drawer {
 public:
  DetailDrawer(DrawStage& stage, const Knobs& knobs)
      : Drawer(stage),
        finest_within_m_(static_cast<float>(knobs.number("finest"))),
        bins_(static_cast<std::size_t>(world().kinds * details)),
        places_(stage.context(), together(world()), bytes_of_instance(knobs)) {}

  void draw(float time_s, Frame& frame) override {
    {
      const auto phase = frame.phase("build");
      sort_by_kind_and_detail(time_s);
    }
    places_.send_all(frame);
    submit(time_s, frame);
    draw_singles(time_s, frame);
    frame.add("instances", static_cast<double>(world().lanterns.size()));
  }

  /// Sorted every frame anyway.
  void regroup(Frame&) override {}

 private:
  void submit(float time_s, Frame& frame) {
    const auto phase = frame.phase("submit");
    stage().use(Feed::instances, time_s);
    stage().bind(&places_.on_device(), places_.stride());
    std::int64_t first = 0;
    for (std::size_t bin = 0; bin < bins_.size(); ++bin) {
      const auto count = static_cast<std::int64_t>(bins_[bin].size());
      for (int part = 0; part < world().parts; ++part)
        stage().draw_instances(stage().range(static_cast<int>(bin) / details, static_cast<int>(bin) % details, part),
                               first, count, places_.on_device(), frame, places_.stride());
      first += count;
    }
  }

  void sort_by_kind_and_detail(float time_s) {
    for (auto& bin : bins_) bin.clear();
    for (std::size_t i = 0; i < together(world()); ++i) {
      const Afloat& lantern = world().lanterns[i];
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

  /// Finest up to a distance, then halved per doubling.
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

std::unique_ptr<Drawer> make_large_drawer(DrawStage& stage, const Knobs& knobs) {
  return std::make_unique<LargeDrawer>(stage, knobs);
}

std::unique_ptr<Drawer> make_large_device_drawer(DrawStage& stage, const Knobs& knobs) {
  return std::make_unique<LargeDeviceDrawer>(stage, knobs);
}

std::unique_ptr<Drawer> make_detail_drawer(DrawStage& stage, const Knobs& knobs) {
  return std::make_unique<DetailDrawer>(stage, knobs);
}

}  // namespace mileage::device
