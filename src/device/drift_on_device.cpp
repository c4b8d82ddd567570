#include "device/drift_on_device.h"

#include <array>
#include <cstring>
#include <string>

#include <epoxy/gl.h>
#include <fmt/format.h>

namespace mileage::device {
namespace {

using festival::FrameWork;
using festival::Lantern;
using festival::Moment;

constexpr std::int64_t fields = 10;

/// festival/drift/drift_kernel.h, in the same order.
constexpr const char* kernel = R"(
layout(std430, binding = 0) buffer Lanterns { float column[]; };
layout(std430, binding = 1) readonly buffer Moments { vec4 moment[]; };  // step, phase, salt as bits, unused
uniform uint count;
uniform uint light_moments;  // Moments of light lanterns, then
uniform uint heavy_moments;  // of heavy ones, if any.
uniform uint kinds;
uniform float temper[6 * MOST_KINDS];

const float edge = 256.0;

float wave(float turns) {
  precise float t = turns - float(int(turns + (turns < 0.0 ? -0.5 : 0.5)));
  precise float parabola = 8.0 * t - 16.0 * t * abs(t);
  precise float corrected = 0.775 * parabola + 0.225 * parabola * abs(parabola);
  return corrected;
}

float chance_of(uint key, uint salt) {
  uint bits = key ^ salt;
  bits ^= bits >> 16;
  bits *= 0x7feb352du;
  bits ^= bits >> 15;
  bits *= 0x846ca68bu;
  bits ^= bits >> 16;
  return float(bits >> 8) * (1.0 / 16777216.0);
}

float wrap(float metres) {
  precise float over = float(int(metres * (1.0 / edge) + 1.0)) - 1.0;
  precise float wrapped = metres - over * edge;
  return wrapped;
}

void main() {
  uint i = invocation();
  if (i >= count) return;
  float x = column[i], y = column[count + i], height = column[2u * count + i];
  float vx = column[3u * count + i], vy = column[4u * count + i], vz = column[5u * count + i];
  float age = column[6u * count + i], flicker = column[7u * count + i], lean = column[8u * count + i];
  uint key = floatBitsToUint(column[9u * count + i]);
  uint kind = (key >> 8) % kinds;
  float pull_along = temper[6u * kind], pull_across = temper[6u * kind + 1u];
  float swirl_x = temper[6u * kind + 2u], swirl_y = temper[6u * kind + 3u];
  float following = temper[6u * kind + 4u], unrest = temper[6u * kind + 5u];
  bool is_heavy = heavy_moments > 0u && key % LIGHT_FOR_EACH_HEAVY == 0u;
  uint first = is_heavy ? light_moments : 0u;
  uint end = first + (is_heavy ? heavy_moments : light_moments);
  for (uint m = first; m < end; ++m) {
    float dt = moment[m].x;
    float phase = moment[m].y;
    precise float u = x * (1.0 / edge);
    precise float v = y * (1.0 / edge);
    float along = wave(2.0 * u + 3.0 * v + phase);
    float across = wave(3.0 * u - 2.0 * v - 0.5 * phase);
    precise float swirl = wave(u + 0.25) * wave(v);
    precise float pull_x = pull_along * along + swirl_x * swirl;
    precise float pull_y = pull_across * across + swirl_y * swirl;
    precise float swell = 0.20 * along * across;
    precise float follow = following * dt;
    vx += (pull_x - vx) * follow;
    vy += (pull_y - vy) * follow;
    vz += (4.0 * (swell + 0.35 - height) - vz) * follow;
    x = wrap(x + vx * dt);
    y = wrap(y + vy * dt);
    height += vz * dt;
    age += dt;
    float chance = chance_of(key, floatBitsToUint(moment[m].z));
    flicker += (0.5 - flicker) * (2.0 * dt) + (chance - 0.5) * unrest;
    float reach = abs(vx) + abs(vy) + 1e-6;
    float slope = vy / reach;
    float heading = 1.0 - (vx < 0.0 ? -1.0 : 1.0) * (1.0 - slope);
    lean += (heading - lean) * (4.0 * dt);
  }
  column[i] = x; column[count + i] = y; column[2u * count + i] = height;
  column[3u * count + i] = vx; column[4u * count + i] = vy; column[5u * count + i] = vz;
  column[6u * count + i] = age; column[7u * count + i] = flicker; column[8u * count + i] = lean;
}
)";

static_assert(sizeof(festival::Temper) == 6 * sizeof(float), "the shader reads tempers as six floats each");

std::string numbers_of_sorting() {
  return fmt::format("#define MOST_KINDS {}\n#define LIGHT_FOR_EACH_HEAVY {}u\n", festival::max_kinds,
                     festival::light_for_each_heavy);
}

float as_float(std::uint32_t bits) {
  float value = 0;
  std::memcpy(&value, &bits, sizeof value);
  return value;
}

std::uint32_t as_bits(float value) {
  std::uint32_t bits = 0;
  std::memcpy(&bits, &value, sizeof bits);
  return bits;
}

std::vector<float> columns_set_afloat(const SetUp& set_up) {
  const auto count = static_cast<std::size_t>(set_up.count);
  std::vector<float> all(count * fields);
  for (std::size_t i = 0; i < count; ++i) {
    const Lantern one = festival::lantern_set_afloat(set_up.seed, static_cast<std::int64_t>(i));
    const std::array<float, fields> values{one.x_m, one.y_m,   one.height_m, one.vx,   one.vy,
                                           one.vz,  one.age_s, one.flicker,  one.lean, as_float(one.key)};
    for (std::size_t field = 0; field < values.size(); ++field) all[field * count + i] = values[field];
  }
  return all;
}

}  // namespace

DriftOnDevice::DriftOnDevice(const Context& context, const SetUp& set_up, const festival::Sorting& sorting)
    : count_(set_up.count),
      columns_(context, count_ * fields * static_cast<std::int64_t>(sizeof(float)), columns_set_afloat(set_up).data()),
      moments_(context, set_up.knobs.whole("work") * (1 + sorting.heavy_steps) * 16),
      program_(Program::compute(compute_preamble() + numbers_of_sorting() + kernel)) {
  const std::int64_t work = set_up.knobs.whole("work");
  program_.use();
  ::glUniform1ui(program_.uniform("count"), static_cast<unsigned>(set_up.count));
  ::glUniform1ui(program_.uniform("light_moments"), static_cast<unsigned>(work));
  ::glUniform1ui(program_.uniform("heavy_moments"),
                 static_cast<unsigned>(sorting.heavy_steps > 1 ? work * sorting.heavy_steps : 0));
  ::glUniform1ui(program_.uniform("kinds"), static_cast<unsigned>(sorting.kinds));
  ::glUniform1fv(program_.uniform("temper[0]"), 6 * festival::max_kinds, &festival::tempers[0].along);
}

void DriftOnDevice::send_work(const FrameWork& work, Frame& frame) {
  std::vector<float> lines;
  for (const std::vector<Moment>* moments : {&work.light, &work.heavy})
    for (const Moment& now : *moments) lines.insert(lines.end(), {now.step_s, now.phase, as_float(now.salt), 0});
  const auto bytes = static_cast<std::int64_t>(lines.size() * sizeof(float));
  moments_.upload(0, bytes, lines.data());
  frame.add("bytes uploaded", static_cast<double>(bytes));
}

void DriftOnDevice::push(std::int64_t index, float vx, float vy) {
  columns_.upload((3 * count_ + index) * static_cast<std::int64_t>(sizeof(float)), sizeof vx, &vx);
  columns_.upload((4 * count_ + index) * static_cast<std::int64_t>(sizeof(float)), sizeof vy, &vy);
}

void DriftOnDevice::carry() const {
  columns_.bind_storage(0);
  moments_.bind_storage(1);
  dispatch(program_, count_);
  ::glMemoryBarrier(GL_SHADER_STORAGE_BARRIER_BIT | GL_BUFFER_UPDATE_BARRIER_BIT);
}

void DriftOnDevice::send(const std::vector<float>& seen, Frame& frame) {
  columns_.upload(0, columns_.bytes(), seen.data());
  frame.add("bytes uploaded", static_cast<double>(columns_.bytes()));
}

void DriftOnDevice::fetch(std::vector<float>& seen) const {
  seen.resize(static_cast<std::size_t>(count_ * fields));
  columns_.download(0, columns_.bytes(), seen.data());
}

void DriftOnDevice::push_in(std::vector<float>& seen, std::int64_t index, float vx, float vy) const {
  seen[static_cast<std::size_t>(3 * count_ + index)] = vx;
  seen[static_cast<std::size_t>(4 * count_ + index)] = vy;
}

Lantern DriftOnDevice::lantern(const std::vector<float>& seen, std::int64_t index) const {
  const auto field = [&](std::int64_t column) { return seen[static_cast<std::size_t>(column * count_ + index)]; };
  return {field(0), field(1), field(2), field(3), field(4), field(5), field(6), field(7), field(8), as_bits(field(9))};
}

}  // namespace mileage::device
