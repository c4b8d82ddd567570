#include "device/draw_variants.h"

#include <algorithm>
#include <cmath>
#include <string>
#include <vector>

#include <epoxy/gl.h>
#include <fmt/format.h>

#include "device/draw_stage.h"

namespace mileage::device {
namespace {

constexpr std::int64_t placed_bytes = sizeof(Placed);
/// The picture is stated as mean brightness over so many tiles; two pictures of one frame may differ where edges fall between
/// pixels.
constexpr int tiles_across = 16;
constexpr int tiles_down = 9;
constexpr double tile_tolerance = 0.01;

/// Marks that go nowhere: for frames that are drawn to be looked at.
class Unmarked : public FrameSink {
 public:
  void begin_phase(const char*) override {}
  void end_phase() override {}
  void add(const char*, double) override {}
};

/// One way to draw all lanterns at a moment.
class Drawer {
 public:
  explicit Drawer(DrawStage& stage) : stage_(stage) {}
  virtual ~Drawer() = default;
  virtual void draw(float time_s, Frame& frame) = 0;

 protected:
  const DrawWorld& world() const { return stage_.world(); }
  DrawStage& stage() { return stage_; }

 private:
  DrawStage& stage_;
};

class DrawVariant : public Variant {
 public:
  using MakeDrawer = std::unique_ptr<Drawer> (*)(DrawStage&, const SetUp&);

  DrawVariant(const SetUp& set_up, MakeDrawer make)
      : step_s_(set_up.step_s),
        stage_(std::make_unique<DrawStage>(set_up)),
        drawer_(make(*stage_, set_up)),
        under_way_(stage_->context(), static_cast<int>(set_up.knobs.whole("in-flight"))) {}

  void run_frame(Frame& frame) override {
    ++frames_;
    stage_->clear();
    drawer_->draw(time_s(), frame);
    const auto phase = frame.phase("wait");
    under_way_.handed_over();
  }

  std::int64_t alive() const override { return static_cast<std::int64_t>(stage_->world().lanterns.size()); }

  /// Draws the last frame once more, counting: in measured frames that would alter the time.
  Outcome outcome() const override {
    stage_->start_counting();
    draw_again();
    const DrawStage::Counted counted = stage_->stop_counting();
    Outcome outcome;
    outcome.state("lanterns drawn", static_cast<double>(counted.lanterns), 0);
    outcome.state("samples passed", static_cast<double>(counted.samples), tile_tolerance, 1);
    state_picture(outcome, stage_->canvas().pixels());
    return outcome;
  }

  Picture picture() const override {
    draw_again();
    return {stage_->canvas().width(), stage_->canvas().height(), stage_->canvas().pixels()};
  }

 private:
  float time_s() const { return static_cast<float>(static_cast<double>(frames_) * step_s_); }

  void draw_again() const {
    Unmarked unmarked;
    Frame frame(unmarked);
    stage_->clear();
    drawer_->draw(time_s(), frame);
    ::glFinish();
    stage_->context().check();
  }

  void state_picture(Outcome& outcome, const std::vector<std::uint8_t>& pixels) const {
    const int width = stage_->canvas().width() / tiles_across;
    const int height = stage_->canvas().height() / tiles_down;
    for (int row = 0; row < tiles_down; ++row)
      for (int column = 0; column < tiles_across; ++column) {
        double sum = 0;
        for (int y = row * height; y < (row + 1) * height; ++y)
          for (int x = 3 * column * width; x < 3 * (column + 1) * width; ++x)
            sum += pixels[static_cast<std::size_t>(y * stage_->canvas().width() * 3 + x)];
        outcome.state(fmt::format("brightness of tile {},{}", column, row), sum / (3.0 * width * height), tile_tolerance, 1);
      }
  }

  double step_s_;
  std::int64_t frames_ = 0;
  std::unique_ptr<DrawStage> stage_;
  std::unique_ptr<Drawer> drawer_;
  FramesUnderWay under_way_;
};

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
      ::glBindVertexArray(layouts_[i]);
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
    buffers_.push_back(std::make_unique<Buffer>(stage().context(), static_cast<std::int64_t>(mesh.vertices.size() * sizeof(MeshVertex)), mesh.vertices.data()));
    const unsigned vertices = buffers_.back()->id();
    buffers_.push_back(std::make_unique<Buffer>(stage().context(), static_cast<std::int64_t>(mesh.indices.size() * sizeof(std::uint32_t)), mesh.indices.data()));
    unsigned layout = 0;
    ::glCreateVertexArrays(1, &layout);
    ::glVertexArrayVertexBuffer(layout, 0, vertices, 0, sizeof(MeshVertex));
    ::glVertexArrayElementBuffer(layout, buffers_.back()->id());
    for (const unsigned attribute : {0U, 1U}) {
      ::glEnableVertexArrayAttrib(layout, attribute);
      ::glVertexArrayAttribFormat(layout, attribute, 3, GL_FLOAT, GL_FALSE, attribute * 12);
      ::glVertexArrayAttribBinding(layout, attribute, 0);
    }
    layouts_.push_back(layout);
  }

  std::vector<std::unique_ptr<Buffer>> buffers_;
  std::vector<unsigned> layouts_;
};

/// Places of all lanterns, built on the processor and sent to a buffer.
class InstancedDrawer : public Drawer {
 public:
  InstancedDrawer(DrawStage& stage, std::int64_t per_call)
      : Drawer(stage), per_call_(per_call), places_(world().lanterns.size()),
        instances_(stage.context(), static_cast<std::int64_t>(places_.size()) * placed_bytes) {}

  void draw(float time_s, Frame& frame) override {
    stage().use(Feed::instances, time_s);
    stage().bind(&instances_);
    if (per_call_ == 0) {
      build(0, static_cast<std::int64_t>(places_.size()), time_s, frame);
      send(0, static_cast<std::int64_t>(places_.size()), frame);
    }
    for (int kind = 0; kind < world().kinds; ++kind) draw_kind(kind, time_s, frame);
    frame.add("instances", static_cast<double>(places_.size()));
  }

 private:
  void draw_kind(int kind, float time_s, Frame& frame) {
    const std::int64_t end = world().first_of_kind[static_cast<std::size_t>(kind) + 1];
    const std::int64_t begin = world().first_of_kind[static_cast<std::size_t>(kind)];
    const std::int64_t batch = per_call_ > 0 ? per_call_ : std::max<std::int64_t>(1, end - begin);
    for (std::int64_t first = begin; first < end; first += batch) {
      const std::int64_t count = std::min(batch, end - first);
      if (per_call_ > 0) {
        build(first, count, time_s, frame);
        send(first, count, frame);
      }
      const auto phase = frame.phase("submit");
      for (int part = 0; part < world().parts; ++part)
        stage().draw_instances(stage().range(kind, 0, part), first, count, instances_, frame);
    }
  }

  void build(std::int64_t first, std::int64_t count, float time_s, Frame& frame) {
    const auto phase = frame.phase("build");
    for (auto i = static_cast<std::size_t>(first); i < static_cast<std::size_t>(first + count); ++i) places_[i] = placed(world().lanterns[i], time_s);
  }

  void send(std::int64_t first, std::int64_t count, Frame& frame) {
    const auto phase = frame.phase("upload");
    instances_.upload(first * placed_bytes, count * placed_bytes, &places_[static_cast<std::size_t>(first)]);
    frame.add("bytes uploaded", static_cast<double>(count * placed_bytes));
  }

  std::int64_t per_call_;  ///< 0: all at once.
  std::vector<Placed> places_;
  Buffer instances_;
};

/// The lines of one indirect call for all kinds and parts.
std::vector<DrawCommand> commands_of(const DrawStage& stage) {
  std::vector<DrawCommand> commands;
  for (int kind = 0; kind < stage.world().kinds; ++kind)
    for (int part = 0; part < stage.world().parts; ++part) {
      const MeshRange& range = stage.range(kind, 0, part);
      commands.push_back({range.indices, static_cast<std::uint32_t>(stage.world().count_of_kind(kind)), range.first_index, range.first_vertex,
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

std::int64_t bytes_of(const std::vector<DrawCommand>& commands) { return static_cast<std::int64_t>(commands.size() * sizeof(DrawCommand)); }

class MultiDrawer : public Drawer {
 public:
  explicit MultiDrawer(DrawStage& stage)
      : Drawer(stage), lines_(commands_of(stage)), commands_(stage.context(), bytes_of(lines_), lines_.data()), places_(world().lanterns.size()),
        instances_(stage.context(), static_cast<std::int64_t>(places_.size()) * placed_bytes) {
    for (const DrawCommand& line : lines_) triangles_ += static_cast<double>(line.instances) * line.indices / 3;
  }

  void draw(float time_s, Frame& frame) override {
    {
      const auto phase = frame.phase("build");
      for (std::size_t i = 0; i < places_.size(); ++i) places_[i] = placed(world().lanterns[i], time_s);
    }
    {
      const auto phase = frame.phase("upload");
      instances_.upload(0, static_cast<std::int64_t>(places_.size()) * placed_bytes, places_.data());
      frame.add("bytes uploaded", static_cast<double>(places_.size() * sizeof(Placed)));
    }
    const auto phase = frame.phase("submit");
    stage().use(Feed::instances, time_s);
    stage().bind(&instances_);
    draw_commands(commands_, frame);
    frame.add("instances", static_cast<double>(places_.size()));
    frame.add("triangles", triangles_);
  }

 private:
  std::vector<DrawCommand> lines_;
  Buffer commands_;
  std::vector<Placed> places_;
  Buffer instances_;
  double triangles_ = 0;
};

class ResidentDrawer : public Drawer {
 public:
  explicit ResidentDrawer(DrawStage& stage)
      : Drawer(stage), lanterns_(stage.context(), static_cast<std::int64_t>(world().lanterns.size()) * placed_bytes, world().lanterns.data()) {}

  void draw(float time_s, Frame& frame) override {
    const auto phase = frame.phase("submit");
    stage().use(Feed::resident, time_s);
    stage().bind(&lanterns_);
    for (int kind = 0; kind < world().kinds; ++kind)
      for (int part = 0; part < world().parts; ++part)
        stage().draw_instances(stage().range(kind, 0, part), world().first_of_kind[static_cast<std::size_t>(kind)], world().count_of_kind(kind), lanterns_, frame);
    frame.add("instances", static_cast<double>(world().lanterns.size()));
  }

 private:
  Buffer lanterns_;
};

/// How much smaller a lantern is drawn towards the reach: 1 up to `fade` before it, 0 at it.
float fading(float away_m, float reach_m, float fade_m) { return std::clamp((reach_m - away_m) / std::max(fade_m, 1e-3F), 0.0F, 1.0F); }

class NearDrawer : public Drawer {
 public:
  NearDrawer(DrawStage& stage, const Knobs& knobs)
      : Drawer(stage), reach_m_(static_cast<float>(knobs.number("reach"))), fade_m_(static_cast<float>(knobs.number("fade"))),
        instances_(stage.context(), static_cast<std::int64_t>(world().lanterns.size()) * placed_bytes) {}

  void draw(float time_s, Frame& frame) override {
    std::vector<std::int64_t> first_of_kind;
    {
      const auto phase = frame.phase("build");
      choose(time_s, first_of_kind);
    }
    {
      const auto phase = frame.phase("upload");
      instances_.upload(0, static_cast<std::int64_t>(places_.size()) * placed_bytes, places_.data());
      frame.add("bytes uploaded", static_cast<double>(places_.size() * sizeof(Placed)));
    }
    const auto phase = frame.phase("submit");
    stage().use(Feed::instances, time_s);
    stage().bind(&instances_);
    for (int kind = 0; kind < world().kinds; ++kind) {
      const std::int64_t first = first_of_kind[static_cast<std::size_t>(kind)];
      const std::int64_t count = first_of_kind[static_cast<std::size_t>(kind) + 1] - first;
      for (int part = 0; part < world().parts; ++part) stage().draw_instances(stage().range(kind, 0, part), first, count, instances_, frame);
    }
    frame.add("instances", static_cast<double>(places_.size()));
  }

 private:
  void choose(float time_s, std::vector<std::int64_t>& first_of_kind) {
    places_.clear();
    int kind = -1;
    for (const Afloat& lantern : world().lanterns) {
      for (; kind < static_cast<int>(lantern.kind); ++kind) first_of_kind.push_back(static_cast<std::int64_t>(places_.size()));
      Placed place = placed(lantern, time_s);
      place.scale *= fading(distance_m(place), reach_m_, fade_m_);
      if (place.scale > 0) places_.push_back(place);
    }
    while (first_of_kind.size() <= static_cast<std::size_t>(world().kinds)) first_of_kind.push_back(static_cast<std::int64_t>(places_.size()));
  }

  float reach_m_;
  float fade_m_;
  std::vector<Placed> places_;
  Buffer instances_;
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
      : Drawer(stage), lines_(commands_without_instances(stage)), commands_(stage.context(), bytes_of(lines_), lines_.data()),
        lanterns_(stage.context(), static_cast<std::int64_t>(world().lanterns.size()) * placed_bytes, world().lanterns.data()),
        near_(stage.context(), lanterns_.bytes()), firsts_(stage.context(), 4 * world().kinds),
        program_(Program::compute(compute_preamble() + placed_in_shaders() + near_shader)), time_(program_.uniform("time")) {
    std::vector<std::uint32_t> firsts(world().first_of_kind.begin(), world().first_of_kind.end() - 1);
    firsts_.upload(0, firsts_.bytes(), firsts.data());
    program_.use();
    ::glUniform1ui(program_.uniform("count"), static_cast<unsigned>(world().lanterns.size()));
    ::glUniform1ui(program_.uniform("parts"), static_cast<unsigned>(world().parts));
    ::glUniform1f(program_.uniform("reach"), static_cast<float>(knobs.number("reach")));
    ::glUniform1f(program_.uniform("fade"), static_cast<float>(knobs.number("fade")));
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

  std::vector<DrawCommand> lines_;
  Buffer commands_;
  Buffer lanterns_;
  Buffer near_;
  Buffer firsts_;
  Program program_;
  int time_;
};

class DetailDrawer : public Drawer {
 public:
  DetailDrawer(DrawStage& stage, const Knobs& knobs)
      : Drawer(stage), finest_within_m_(static_cast<float>(knobs.number("finest"))), bins_(static_cast<std::size_t>(world().kinds * details)),
        instances_(stage.context(), static_cast<std::int64_t>(world().lanterns.size()) * placed_bytes) {}

  void draw(float time_s, Frame& frame) override {
    {
      const auto phase = frame.phase("build");
      for (auto& bin : bins_) bin.clear();
      for (const Afloat& lantern : world().lanterns) {
        const Placed place = placed(lantern, time_s);
        bins_[static_cast<std::size_t>(static_cast<int>(lantern.kind) * details + detail_of(distance_m(place)))].push_back(place);
      }
    }
    stage().use(Feed::instances, time_s);
    stage().bind(&instances_);
    std::int64_t first = 0;
    for (std::size_t bin = 0; bin < bins_.size(); ++bin) {
      const auto count = static_cast<std::int64_t>(bins_[bin].size());
      if (count == 0) continue;
      {
        const auto phase = frame.phase("upload");
        instances_.upload(first * placed_bytes, count * placed_bytes, bins_[bin].data());
        frame.add("bytes uploaded", static_cast<double>(count * placed_bytes));
      }
      const auto phase = frame.phase("submit");
      for (int part = 0; part < world().parts; ++part)
        stage().draw_instances(stage().range(static_cast<int>(bin) / details, static_cast<int>(bin) % details, part), first, count, instances_, frame);
      first += count;
    }
    frame.add("instances", static_cast<double>(first));
  }

 private:
  /// The finest up to a distance, then half as fine for every doubling of it.
  int detail_of(float away_m) const {
    int detail = 0;
    for (float within = finest_within_m_; away_m > within && detail + 1 < details; within *= 2) ++detail;
    return detail;
  }

  float finest_within_m_;
  std::vector<std::vector<Placed>> bins_;
  Buffer instances_;
};

template <class OneDrawer>
std::unique_ptr<Drawer> plain(DrawStage& stage, const SetUp&) {
  return std::make_unique<OneDrawer>(stage);
}

template <class OneDrawer>
std::unique_ptr<Drawer> with_knobs(DrawStage& stage, const SetUp& set_up) {
  return std::make_unique<OneDrawer>(stage, set_up.knobs);
}

std::unique_ptr<Variant> made(const SetUp& set_up, DrawVariant::MakeDrawer make) { return std::make_unique<DrawVariant>(set_up, make); }

}  // namespace

std::unique_ptr<Variant> make_draw_each(const SetUp& set_up) { return made(set_up, plain<EachDrawer>); }

std::unique_ptr<Variant> make_draw_each_own(const SetUp& set_up) { return made(set_up, plain<EachOwnDrawer>); }

std::unique_ptr<Variant> make_draw_instanced(const SetUp& set_up) {
  return made(set_up, [](DrawStage& stage, const SetUp& given) -> std::unique_ptr<Drawer> {
    return std::make_unique<InstancedDrawer>(stage, given.knobs.whole("per-call"));
  });
}

std::unique_ptr<Variant> make_draw_instanced_all(const SetUp& set_up) {
  return made(set_up, [](DrawStage& stage, const SetUp&) -> std::unique_ptr<Drawer> { return std::make_unique<InstancedDrawer>(stage, 0); });
}

std::unique_ptr<Variant> make_draw_multi(const SetUp& set_up) { return made(set_up, plain<MultiDrawer>); }

std::unique_ptr<Variant> make_draw_resident(const SetUp& set_up) { return made(set_up, plain<ResidentDrawer>); }

std::unique_ptr<Variant> make_draw_near(const SetUp& set_up) { return made(set_up, with_knobs<NearDrawer>); }

std::unique_ptr<Variant> make_draw_near_device(const SetUp& set_up) { return made(set_up, with_knobs<NearDeviceDrawer>); }

std::unique_ptr<Variant> make_draw_detail(const SetUp& set_up) { return made(set_up, with_knobs<DetailDrawer>); }

}  // namespace mileage::device
