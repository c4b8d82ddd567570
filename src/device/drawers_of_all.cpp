#include <algorithm>
#include <cstring>
#include <memory>
#include <vector>

#include <epoxy/gl.h>

#include "device/drawer.h"
#include "types/unmarked.h"

namespace mileage::device {
namespace {

class EachDrawer : public Drawer {
 public:
  using Drawer::Drawer;

  void draw(float time_s, Frame& frame) override {
    const auto phase = frame.phase("submit");
    stage().use(Feed::uniforms, time_s);
    stage().bind(nullptr);
    DrawStage::Called called;
    for (const Afloat& lantern : world().lanterns) {
      stage().give(placed(lantern, time_s));
      for (int part = 0; part < world().parts; ++part)
        stage().draw_one(stage().range(static_cast<int>(lantern.kind), 0, part), called);
    }
    called.tell(frame);
    frame.add("instances", static_cast<double>(world().lanterns.size()));
  }

  /// Order does not matter for single calls.
  void regroup(Frame&) override {}
};

/// A buffer per lantern and kind.
class EachOwnDrawer : public Drawer {
 public:
  explicit EachOwnDrawer(DrawStage& stage) : Drawer(stage), kinds_owned_(world().changing > 0 ? world().kinds : 1) {
    for (const Afloat& lantern : world().lanterns)
      for (int i = 0; i < kinds_owned_; ++i) add_copy(kinds_owned_ == 1 ? static_cast<int>(lantern.kind) : i);
  }

  void draw(float time_s, Frame& frame) override {
    const auto phase = frame.phase("submit");
    stage().use(Feed::uniforms, time_s);
    DrawStage::Called called;
    for (std::size_t i = 0; i < world().lanterns.size(); ++i) {
      const auto kind = static_cast<int>(world().lanterns[i].kind);
      stage().give(placed(world().lanterns[i], time_s));
      const std::size_t own =
          i * static_cast<std::size_t>(kinds_owned_) + static_cast<std::size_t>(kinds_owned_ == 1 ? 0 : kind);
      ::glBindVertexArray(layouts_[own].id());
      for (int part = 0; part < world().parts; ++part) {
        MeshRange range = stage().range(kind, 0, part);
        range.first_index -= stage().range(kind, 0, 0).first_index;
        range.first_vertex = 0;
        stage().draw_one(range, called);
      }
    }
    called.tell(frame);
    frame.add("instances", static_cast<double>(world().lanterns.size()));
  }

  void regroup(Frame&) override {}

 private:
  void add_copy(int kind) {
    const Mesh mesh = lantern_mesh(kind, world().facets, 0);
    buffers_.push_back(std::make_unique<Buffer>(
        stage().context(), static_cast<std::int64_t>(mesh.vertices.size() * sizeof(MeshVertex)), mesh.vertices.data()));
    const unsigned vertices = buffers_.back()->id();
    buffers_.push_back(std::make_unique<Buffer>(stage().context(),
                                                static_cast<std::int64_t>(mesh.indices.size() * sizeof(std::uint32_t)),
                                                mesh.indices.data()));
    layouts_.push_back(new_vertex_layout());
    const unsigned layout = layouts_.back().id();
    ::glVertexArrayVertexBuffer(layout, 0, vertices, 0, sizeof(MeshVertex));
    ::glVertexArrayElementBuffer(layout, buffers_.back()->id());
    for (const unsigned attribute : {0U, 1U}) {
      ::glEnableVertexArrayAttrib(layout, attribute);
      ::glVertexArrayAttribFormat(layout, attribute, 3, GL_FLOAT, GL_FALSE, attribute * 12);
      ::glVertexArrayAttribBinding(layout, attribute, 0);
    }
  }

  int kinds_owned_;
  std::vector<std::unique_ptr<Buffer>> buffers_;
  std::vector<DeviceName> layouts_;
};

void place_lanterns(const DrawWorld& world, std::int64_t first, std::int64_t count, float time_s,
                    std::vector<Placed>& places) {
  for (auto i = static_cast<std::size_t>(first); i < static_cast<std::size_t>(first + count); ++i)
    places[i] = placed(world.lanterns[i], time_s);
}

class InstancedDrawer : public Drawer {
 public:
  InstancedDrawer(DrawStage& stage, std::int64_t per_call, std::int64_t bytes)
      : Drawer(stage), per_call_(per_call), places_(stage.context(), together(world()), bytes) {}

  void draw(float time_s, Frame& frame) override {
    stage().use(Feed::instances, time_s);
    stage().bind(&places_.on_device(), places_.stride());
    if (per_call_ == 0) build_and_send(0, world().first_single(), time_s, frame);
    for (int kind = 0; kind < world().kinds; ++kind) draw_kind(kind, time_s, frame);
    draw_singles(time_s, frame);
    frame.add("instances", static_cast<double>(world().lanterns.size()));
  }

 private:
  void draw_kind(int kind, float time_s, Frame& frame) {
    const std::int64_t end = world().first_of_kind[static_cast<std::size_t>(kind) + 1];
    const std::int64_t begin = world().first_of_kind[static_cast<std::size_t>(kind)];
    const std::int64_t batch = per_call_ > 0 ? per_call_ : std::max<std::int64_t>(1, end - begin);
    for (std::int64_t first = begin; first < end; first += batch) {
      const std::int64_t count = std::min(batch, end - first);
      if (per_call_ > 0) build_and_send(first, count, time_s, frame);
      const auto phase = frame.phase("submit");
      for (int part = 0; part < world().parts; ++part)
        stage().draw_instances(stage().range(kind, 0, part), first, count, places_.on_device(), frame,
                               places_.stride());
    }
  }

  void build_and_send(std::int64_t first, std::int64_t count, float time_s, Frame& frame) {
    {
      const auto phase = frame.phase("build");
      place_lanterns(world(), first, count, time_s, places_.on_processor());
    }
    places_.send(first, count, frame);
  }

  std::int64_t per_call_;  ///< 0: all at once.
  SentPlaces places_;
};

class MultiDrawer : public Drawer {
 public:
  MultiDrawer(DrawStage& stage, std::int64_t bytes)
      : Drawer(stage),
        lines_(commands_of(stage)),
        commands_(stage.context(), bytes_of(lines_), lines_.data()),
        places_(stage.context(), together(world()), bytes) {}

  void regroup(Frame& frame) override {
    Drawer::regroup(frame);
    lines_ = commands_of(stage());
    const auto phase = frame.phase("upload");
    commands_.upload(0, bytes_of(lines_), lines_.data());
    frame.add("bytes uploaded", static_cast<double>(bytes_of(lines_)));
  }

  void draw(float time_s, Frame& frame) override {
    {
      const auto phase = frame.phase("build");
      place_lanterns(world(), 0, world().first_single(), time_s, places_.on_processor());
    }
    places_.send_all(frame);
    {
      const auto phase = frame.phase("submit");
      stage().use(Feed::instances, time_s);
      stage().bind(&places_.on_device(), places_.stride());
      draw_commands(commands_, frame);
    }
    for (const DrawCommand& line : lines_)
      frame.add("triangles", static_cast<double>(line.instances) * line.indices / 3);
    draw_singles(time_s, frame);
    frame.add("instances", static_cast<double>(world().lanterns.size()));
  }

 private:
  std::vector<DrawCommand> lines_;
  Buffer commands_;
  SentPlaces places_;
};

class ResidentDrawer : public Drawer {
 public:
  explicit ResidentDrawer(DrawStage& stage)
      : Drawer(stage), lanterns_(stage.context(), bytes_together(world()), world().lanterns.data()) {}

  void draw(float time_s, Frame& frame) override {
    {
      const auto phase = frame.phase("submit");
      stage().use(Feed::resident, time_s);
      stage().bind(&lanterns_);
      for (int kind = 0; kind < world().kinds; ++kind)
        for (int part = 0; part < world().parts; ++part)
          stage().draw_instances(stage().range(kind, 0, part), world().first_of_kind[static_cast<std::size_t>(kind)],
                                 world().count_of_kind(kind), lanterns_, frame);
    }
    draw_singles(time_s, frame);
    frame.add("instances", static_cast<double>(world().lanterns.size()));
  }

  void regroup(Frame& frame) override {
    Drawer::regroup(frame);
    send_lanterns(lanterns_, world(), frame);
  }

 private:
  Buffer lanterns_;
};

}  // namespace

void Drawer::draw_by_rule(float time_s) const {
  stage_.use(Feed::uniforms, time_s);
  stage_.bind(nullptr);
  DrawStage::Called untold;
  for (const Afloat& lantern : world().lanterns) draw_one_by_rule(lantern, time_s, untold);
}

void Drawer::draw_one_by_rule(const Afloat& lantern, float time_s, DrawStage::Called& called) const {
  const auto look = rule(lantern, time_s);
  if (!look) return;
  stage_.give(look->place);
  for (int part = 0; part < world().parts; ++part)
    stage_.draw_one(stage_.range(static_cast<int>(lantern.kind), look->detail, part), called);
}

void Drawer::draw_singles(float time_s, Frame& frame) const {
  if (world().first_single() == world().count()) return;
  const auto phase = frame.phase("singles");
  stage_.use(Feed::uniforms, time_s);
  stage_.bind(nullptr);
  DrawStage::Called called;
  for (std::int64_t i = world().first_single(); i < world().count(); ++i)
    draw_one_by_rule(world().lanterns[static_cast<std::size_t>(i)], time_s, called);
  called.tell(frame);
}

void Drawer::regroup(Frame& frame) {
  const auto phase = frame.phase("regroup");
  world().regroup();
}

std::size_t together(const DrawWorld& world) { return static_cast<std::size_t>(world.first_single()); }

std::int64_t bytes_together(const DrawWorld& world) {
  return world.first_single() * static_cast<std::int64_t>(sizeof(Afloat));
}

void send_lanterns(Buffer& lanterns, const DrawWorld& world, Frame& frame) {
  const auto phase = frame.phase("upload");
  lanterns.upload(0, bytes_together(world), world.lanterns.data());
  frame.add("bytes uploaded", static_cast<double>(bytes_together(world)));
}

std::int64_t bytes_of_instance(const Knobs& knobs) {
  constexpr std::int64_t step = 16;
  return (knobs.whole("payload") + step - 1) / step * step;
}

SentPlaces::SentPlaces(const Context& context, std::size_t max, std::int64_t bytes)
    : on_processor_(max),
      stride_(bytes),
      carried_(bytes == sizeof(Placed) ? 0 : max * static_cast<std::size_t>(bytes)),
      on_device_(context, static_cast<std::int64_t>(max) * bytes) {}

void SentPlaces::send(std::int64_t first, std::int64_t count, Frame& frame) {
  const auto phase = frame.phase("upload");
  const void* from = on_processor_.data() + first;
  if (!carried_.empty()) {
    for (std::int64_t i = first; i < first + count; ++i)
      std::memcpy(carried_.data() + i * stride_, on_processor_.data() + i, sizeof(Placed));
    from = carried_.data() + first * stride_;
  }
  on_device_.upload(first * stride_, count * stride_, from);
  frame.add("bytes uploaded", static_cast<double>(count * stride_));
}

std::vector<DrawCommand> commands_of(const DrawStage& stage) {
  std::vector<DrawCommand> commands;
  for (int kind = 0; kind < stage.world().kinds; ++kind)
    for (int part = 0; part < stage.world().parts; ++part) {
      const MeshRange& range = stage.range(kind, 0, part);
      commands.push_back({range.indices, static_cast<std::uint32_t>(stage.world().count_of_kind(kind)),
                          range.first_index, range.first_vertex,
                          static_cast<std::uint32_t>(stage.world().first_of_kind[static_cast<std::size_t>(kind)])});
    }
  return commands;
}

void draw_commands(const Buffer& commands, Frame& frame) {
  const auto lines = commands.bytes() / static_cast<std::int64_t>(sizeof(DrawCommand));
  ::glBindBuffer(GL_DRAW_INDIRECT_BUFFER, commands.id());
  ::glMultiDrawElementsIndirect(GL_TRIANGLES, GL_UNSIGNED_INT, nullptr, static_cast<int>(lines), 0);
  frame.add("calls", 1);
}

std::int64_t bytes_of(const std::vector<DrawCommand>& commands) {
  return static_cast<std::int64_t>(commands.size() * sizeof(DrawCommand));
}

std::unique_ptr<Drawer> make_each_drawer(DrawStage& stage, const Knobs&) { return std::make_unique<EachDrawer>(stage); }

std::unique_ptr<Drawer> make_each_own_drawer(DrawStage& stage, const Knobs&) {
  return std::make_unique<EachOwnDrawer>(stage);
}

std::unique_ptr<Drawer> make_instanced_drawer(DrawStage& stage, const Knobs& knobs) {
  return std::make_unique<InstancedDrawer>(stage, knobs.whole("per-call"), bytes_of_instance(knobs));
}

std::unique_ptr<Drawer> make_instanced_all_drawer(DrawStage& stage, const Knobs& knobs) {
  return std::make_unique<InstancedDrawer>(stage, 0, bytes_of_instance(knobs));
}

std::unique_ptr<Drawer> make_multi_drawer(DrawStage& stage, const Knobs& knobs) {
  return std::make_unique<MultiDrawer>(stage, bytes_of_instance(knobs));
}

std::unique_ptr<Drawer> make_resident_drawer(DrawStage& stage, const Knobs&) {
  return std::make_unique<ResidentDrawer>(stage);
}

}  // namespace mileage::device
