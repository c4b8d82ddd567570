#include "device/jostle_compute.h"

#include <array>
#include <cstring>
#include <numeric>
#include <string>
#include <vector>

#include <epoxy/gl.h>
#include <fmt/format.h>

#include "device/device_objects.h"
#include "festival/jostle/cells.h"
#include "festival/jostle/jostle_world.h"

namespace mileage::device {
namespace {

namespace jostle = festival::jostle;

/// A lantern: place and speed; state bits, still frames, wake flag, unused.
constexpr const char* world = R"(
layout(std430, binding = 0) buffer Places { vec4 place[]; };
layout(std430, binding = 1) buffer States { ivec4 state[]; };
layout(std430, binding = 2) buffer Pushes { ivec2 push[]; };
layout(std430, binding = 3) buffer Heads { int head[]; };
layout(std430, binding = 4) buffer Chains { int next[]; };
layout(std430, binding = 5) buffer Found { uint tested, contacts, awake, unused; };
layout(std430, binding = 6) buffer Overlaps { int overlap_of[]; };
uniform uint count;
uniform int across;
uniform float cells_each_m;
uniform float side;
uniform float eddy;
uniform float step_s;
uniform float kept;
uniform int rests;
const int ASLEEP = 1;
const int FAST = 2;
int column_of(float at) { return min(across - 1, int(at * cells_each_m)); }
)";

constexpr const char* clear_cells_shader = R"(
void main() {
  uint i = invocation();
  if (i < uint(across * across)) head[i] = -1;
  if (i == 0u) { tested = 0u; contacts = 0u; awake = 0u; }
}
)";

constexpr const char* fill_cells_shader = R"(
void main() {
  uint i = invocation();
  if (i >= count) return;
  int cell = column_of(place[i].y) * across + column_of(place[i].x);
  next[i] = atomicExchange(head[cell], int(i));
}
)";

/// festival::jostle::meet(), in the same order.
constexpr const char* push_apart_shader = R"(
void main() {
  uint i = invocation();
  if (i >= count) return;
  vec2 own = place[i].xy;
  int here = state[i].x;
  int row = column_of(own.y);
  int column = column_of(own.x);
  ivec2 pushed = ivec2(0);
  int woken = 0;
  int overlaps = 0;
  uint looked = 0u;
  uint touched = 0u;
  for (int at = max(0, row - 1); at <= min(across - 1, row + 1); ++at)
    for (int along = max(0, column - 1); along <= min(across - 1, column + 1); ++along)
      for (int other = head[at * across + along]; other >= 0; other = next[other]) {
        if (other == int(i)) continue;
        ++looked;
        precise float dx = own.x - place[other].x;
        precise float dy = own.y - place[other].y;
        precise float squared = dx * dx + dy * dy;
        if (squared >= REACH_SQUARED) continue;
        precise float away = sqrt(squared);
        precise float overlap = DIAMETER - away;
        precise float micrometres = overlap * 1e6;
        ++touched;
        overlaps += int(micrometres);
        int there = state[other].x;
        if ((here & there & ASLEEP) != 0) continue;
        float apart = int(i) < other ? -1.0 : 1.0;
        precise float away_x = away > 1e-6 ? dx / away : apart;
        precise float away_y = away > 1e-6 ? dy / away : 0.0;
        precise float strength = STRENGTH * overlap;
        precise float push_x = strength * away_x;
        precise float push_y = strength * away_y;
        pushed += ivec2(int(push_x), int(push_y));
        if ((there & FAST) != 0) woken = 1;
      }
  push[i] = pushed;
  state[i].z = woken;
  overlap_of[i] = overlaps;
  atomicAdd(tested, looked);
  atomicAdd(contacts, touched);
}
)";

/// JostleVariant::move().
constexpr const char* move_all_shader = R"(
float towards_middle(float at) {
  precise float turns = at / eddy;
  precise float off = turns - float(int(turns)) - 0.5;
  precise float pull = -8.0 * off * (1.0 - 2.0 * abs(off));
  return pull;
}

void main() {
  uint i = invocation();
  if (i >= count) return;
  ivec4 was = state[i];
  if ((was.x & ASLEEP) != 0) {
    if (was.z != 0) { state[i] = ivec4(0); atomicAdd(awake, 1u); }
    return;
  }
  vec4 one = place[i];
  precise float push_x = float(push[i].x) / STEPS;
  precise float push_y = float(push[i].y) / STEPS;
  precise float vx = (one.z + (push_x + DRAWN * towards_middle(one.x)) * step_s) * kept;
  precise float vy = (one.w + (push_y + DRAWN * towards_middle(one.y)) * step_s) * kept;
  precise float x = one.x + vx * step_s;
  precise float y = one.y + vy * step_s;
  precise float held_x = clamp(x, RADIUS, side - RADIUS);
  precise float held_y = clamp(y, RADIUS, side - RADIUS);
  if (held_x != x) vx = 0.0;
  if (held_y != y) vy = 0.0;
  precise float squared = vx * vx + vy * vy;
  bool is_still = rests != 0 && squared < STILL_SQUARED;
  int still = is_still ? min(was.y + 1, STILL_FRAMES) : 0;
  int now = still >= STILL_FRAMES ? ASLEEP : squared > WAKES_SQUARED ? FAST : 0;
  if (now == ASLEEP) { vx = 0.0; vy = 0.0; }
  place[i] = vec4(held_x, held_y, vx, vy);
  state[i] = ivec4(now, still, 0, 0);
  if (now != ASLEEP) atomicAdd(awake, 1u);
}
)";

/// With all digits.
std::string numbers() {
  const auto number = [](const char* name, float value) { return fmt::format("#define {} {:.9e}\n", name, value); };
  return number("REACH_SQUARED", jostle::reach_squared) + number("DIAMETER", jostle::diameter_m) +
         number("RADIUS", jostle::radius_m) + number("STRENGTH", jostle::stiffness * jostle::steps_of_a_push) +
         number("STEPS", jostle::steps_of_a_push) + number("DRAWN", jostle::drawn_m_per_s2) +
         number("STILL_SQUARED", jostle::still_below_m_per_s * jostle::still_below_m_per_s) +
         number("WAKES_SQUARED", jostle::wakes_from_m_per_s * jostle::wakes_from_m_per_s) +
         fmt::format("#define STILL_FRAMES {}\n", jostle::still_frames);
}

Program shader(const char* source) { return Program::compute(compute_preamble() + numbers() + world + source); }

template <class Value>
std::int64_t bytes_of(std::int64_t count) {
  return count * static_cast<std::int64_t>(sizeof(Value));
}

class JostleCompute : public jostle::JostleVariant {
 public:
  explicit JostleCompute(const SetUp& set_up)
      : JostleVariant(set_up),
        cells_(basin(), set_up.knobs.number("cell")),
        max_(set_up.count + set_up.arrivals),
        places_(context_, bytes_of<float>(4 * max_)),
        states_(context_, bytes_of<int>(4 * max_)),
        pushes_(context_, bytes_of<int>(2 * max_)),
        heads_(context_, bytes_of<int>(cells_.size())),
        chains_(context_, bytes_of<int>(max_)),
        found_(context_, bytes_of<unsigned>(4)),
        overlaps_(context_, bytes_of<int>(max_)),
        clear_(shader(clear_cells_shader)),
        fill_(shader(fill_cells_shader)),
        push_(shader(push_apart_shader)),
        move_(shader(move_all_shader)),
        under_way_(context_, 1) {
    for (std::int64_t place = 0; place < alive(); ++place) send(static_cast<std::size_t>(place));
  }

 private:
  jostle::Found push_apart(Frame& frame) override {
    under_way_.begin();
    {
      const auto phase = frame.phase("submit");
      bind();
      run(clear_, std::max<std::int64_t>(1, cells_.size()));
      run(fill_, alive());
      run(push_, alive());
      run(move_, alive());
    }
    {
      const auto phase = frame.phase(wait_phase);
      under_way_.handed_over(frame);
    }
    const auto phase = frame.phase("read back");
    std::array<unsigned, 4> numbers{};
    found_.download(0, bytes_of<unsigned>(4), numbers.data());
    awake_ = numbers[2];
    has_seen_ = false;
    return {numbers[0], numbers[1] / 2, 0};
  }

  std::int64_t move_all(Frame&) override { return awake_; }

  void was_set_afloat(std::size_t place) override {
    if (static_cast<std::int64_t>(place) < max_) send(place);
  }

  void send(std::size_t place) {
    const jostle::Lanterns& all = seen();
    const float at[4] = {all.x[place], all.y[place], all.vx[place], all.vy[place]};
    const int state[4] = {all.state[place], all.still[place], 0, 0};
    places_.upload(bytes_of<float>(4 * static_cast<std::int64_t>(place)), sizeof at, at);
    states_.upload(bytes_of<int>(4 * static_cast<std::int64_t>(place)), sizeof state, state);
  }

  /// Reads back all lanterns and their overlap.
  void look() const override {
    if (has_seen_) return;
    jostle::Lanterns& all = seen();
    const auto count = static_cast<std::size_t>(alive());
    std::vector<float> at(4 * count);
    std::vector<int> states(4 * count), overlaps(count);
    places_.download(0, bytes_of<float>(4 * alive()), at.data());
    states_.download(0, bytes_of<int>(4 * alive()), states.data());
    overlaps_.download(0, bytes_of<int>(alive()), overlaps.data());
    for (std::size_t i = 0; i < count; ++i) {
      all.x[i] = at[4 * i];
      all.y[i] = at[4 * i + 1];
      all.vx[i] = at[4 * i + 2];
      all.vy[i] = at[4 * i + 3];
      all.state[i] = static_cast<std::uint8_t>(states[4 * i]);
      all.still[i] = static_cast<std::uint8_t>(states[4 * i + 1]);
    }
    describe_overlap(std::accumulate(overlaps.begin(), overlaps.end(), std::int64_t{0}) / 2);
    has_seen_ = true;
  }

  void bind() const {
    const Buffer* buffers[] = {&places_, &states_, &pushes_, &heads_, &chains_, &found_, &overlaps_};
    for (unsigned place = 0; place < 7; ++place) buffers[place]->bind_storage(place);
  }

  /// Unused uniforms are optimised away.
  void run(const Program& program, std::int64_t invocations) const {
    program.use();
    const auto set = [&](const char* name, auto uniform, auto value) {
      const int place = ::glGetUniformLocation(program.id(), name);
      if (place >= 0) uniform(place, value);
    };
    set(
        "count", [](int at, unsigned value) { ::glUniform1ui(at, value); }, static_cast<unsigned>(alive()));
    const auto set_int = [](int at, int value) { ::glUniform1i(at, value); };
    const auto set_float = [](int at, float value) { ::glUniform1f(at, value); };
    set("across", set_int, static_cast<int>(cells_.across()));
    set("rests", set_int, rests() ? 1 : 0);
    set("cells_each_m", set_float, static_cast<float>(cells_.across()) / basin().side_m);
    set("side", set_float, basin().side_m);
    set("eddy", set_float, basin().eddy_m);
    set("step_s", set_float, static_cast<float>(set_up().step_s));
    set("kept", set_float, kept_a_frame());
    dispatch(program, invocations);
    ::glMemoryBarrier(GL_SHADER_STORAGE_BARRIER_BIT | GL_BUFFER_UPDATE_BARRIER_BIT);
  }

  Context context_;
  jostle::Cells cells_;
  std::int64_t max_;
  Buffer places_, states_, pushes_, heads_, chains_, found_, overlaps_;
  Program clear_, fill_, push_, move_;
  FramesUnderWay under_way_;
  std::int64_t awake_ = 0;
  mutable bool has_seen_ = true;
};

}  // namespace

std::unique_ptr<Variant> make_jostle_compute(const SetUp& set_up) { return std::make_unique<JostleCompute>(set_up); }

}  // namespace mileage::device
