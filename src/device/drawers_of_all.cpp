// Drawers of every lantern.
#include <algorithm>
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
    for (const Afloat& lantern : world().lanterns) {
      stage().give(placed(lantern, time_s));
      for (int part = 0; part < world().parts; ++part)
        stage().draw_one(stage().range(static_cast<int>(lantern.kind), 0, part), frame);
    }
    frame.add("instances", static_cast<double>(world().lanterns.size()));
  }
};

/// Buffers of its own for every lantern.
class EachOwnDrawer : public Drawer {
 public:
  explicit EachOwnDrawer(DrawStage& stage) : Drawer(stage) {
    for (const Afloat& lantern : world().lanterns) add_copy(static_cast<int>(lantern.kind));
  }

  void draw(float time_s, Frame& frame) override {
    const auto phase = frame.phase("submit");
    stage().use(Feed::uniforms, time_s);
    for (std::size_t i = 0; i < world().lanterns.size(); ++i) {
      stage().give(placed(world().lanterns[i], time_s));
      ::glBindVertexArray(layouts_[i].id());
      for (int part = 0; part < world().parts; ++part) {
        MeshRange range = stage().range(static_cast<int>(world().lanterns[i].kind), 0, part);
        range.first_index -= stage().range(static_cast<int>(world().lanterns[i].kind), 0, 0).first_index;
        range.first_vertex = 0;
        stage().draw_one(range, frame);
      }
    }
    frame.add("instances", static_cast<double>(world().lanterns.size()));
  }

 private:
  void add_copy(int kind) {
    const Mesh mesh = lantern_mesh(kind, 0);
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
  InstancedDrawer(DrawStage& stage, std::int64_t per_call)
      : Drawer(stage), per_call_(per_call), places_(stage.context(), world().lanterns.size()) {}

  void draw(float time_s, Frame& frame) override {
    stage().use(Feed::instances, time_s);
    stage().bind(&places_.on_device());
    if (per_call_ == 0) build_and_send(0, static_cast<std::int64_t>(world().lanterns.size()), time_s, frame);
    for (int kind = 0; kind < world().kinds; ++kind) draw_kind(kind, time_s, frame);
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
        stage().draw_instances(stage().range(kind, 0, part), first, count, places_.on_device(), frame);
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
  explicit MultiDrawer(DrawStage& stage)
      : Drawer(stage),
        lines_(commands_of(stage)),
        commands_(stage.context(), bytes_of(lines_), lines_.data()),
        places_(stage.context(), world().lanterns.size()) {
    for (const DrawCommand& line : lines_) triangles_ += static_cast<double>(line.instances) * line.indices / 3;
  }

  void draw(float time_s, Frame& frame) override {
    {
      const auto phase = frame.phase("build");
      place_lanterns(world(), 0, static_cast<std::int64_t>(world().lanterns.size()), time_s, places_.on_processor());
    }
    places_.send_all(frame);
    const auto phase = frame.phase("submit");
    stage().use(Feed::instances, time_s);
    stage().bind(&places_.on_device());
    draw_commands(commands_, frame);
    frame.add("instances", static_cast<double>(world().lanterns.size()));
    frame.add("triangles", triangles_);
  }

 private:
  std::vector<DrawCommand> lines_;
  Buffer commands_;
  SentPlaces places_;
  double triangles_ = 0;
};

class ResidentDrawer : public Drawer {
 public:
  explicit ResidentDrawer(DrawStage& stage)
      : Drawer(stage),
        lanterns_(stage.context(), static_cast<std::int64_t>(world().lanterns.size() * sizeof(Afloat)),
                  world().lanterns.data()) {}

  void draw(float time_s, Frame& frame) override {
    const auto phase = frame.phase("submit");
    stage().use(Feed::resident, time_s);
    stage().bind(&lanterns_);
    for (int kind = 0; kind < world().kinds; ++kind)
      for (int part = 0; part < world().parts; ++part)
        stage().draw_instances(stage().range(kind, 0, part), world().first_of_kind[static_cast<std::size_t>(kind)],
                               world().count_of_kind(kind), lanterns_, frame);
    frame.add("instances", static_cast<double>(world().lanterns.size()));
  }

 private:
  Buffer lanterns_;
};

}  // namespace

void Drawer::draw_by_rule(float time_s) const {
  Unmarked unmarked;
  Frame frame(unmarked);
  stage_.use(Feed::uniforms, time_s);
  stage_.bind(nullptr);
  for (const Afloat& lantern : world().lanterns) {
    const auto look = rule(lantern, time_s);
    if (!look) continue;
    stage_.give(look->place);
    for (int part = 0; part < world().parts; ++part)
      stage_.draw_one(stage_.range(static_cast<int>(lantern.kind), look->detail, part), frame);
  }
}

SentPlaces::SentPlaces(const Context& context, std::size_t most)
    : on_processor_(most), on_device_(context, static_cast<std::int64_t>(most * sizeof(Placed))) {}

void SentPlaces::send(std::int64_t first, std::int64_t count, Frame& frame) {
  const auto phase = frame.phase("upload");
  constexpr std::int64_t each = sizeof(Placed);
  on_device_.upload(first * each, count * each, on_processor_.data() + first);
  frame.add("bytes uploaded", static_cast<double>(count * each));
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
  return std::make_unique<InstancedDrawer>(stage, knobs.whole("per-call"));
}

std::unique_ptr<Drawer> make_instanced_all_drawer(DrawStage& stage, const Knobs&) {
  return std::make_unique<InstancedDrawer>(stage, 0);
}

std::unique_ptr<Drawer> make_multi_drawer(DrawStage& stage, const Knobs&) {
  return std::make_unique<MultiDrawer>(stage);
}

std::unique_ptr<Drawer> make_resident_drawer(DrawStage& stage, const Knobs&) {
  return std::make_unique<ResidentDrawer>(stage);
}

}  // namespace mileage::device
