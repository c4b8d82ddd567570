#include "measure/runners/drive_runner.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "measure/recordings/recorded_run.h"
#include "study/frame_table.h"
#include "study/json_fields.h"
#include "study/json_text.h"
#include "system/stop_signals.h"
#include "types/error.h"
#include "types/notation.h"

namespace mileage {
namespace {

constexpr double hello_within_s = 30;
constexpr std::size_t max_variants = 64;
constexpr std::size_t max_name = 64;
constexpr int bad_answers_in_a_row = 3;
/// To settle after a change of count.
constexpr int frames_to_settle_in_game = 10;
/// Ratio of frames received to wanted.
constexpr std::size_t flood = 20;
constexpr double max_frame_ms = 1e9;

struct Refused {
  std::string reason;
};

Json parsed(const std::string& line) {
  Json json = parsed_json(line);
  if (json.is_discarded() || !json.is_object()) throw Refused{"sent a line that is no JSON object"};
  return json;
}

/// Parse errors are attributed to the program.
template <class BreakdownInputs>
decltype(auto) of_a_line(BreakdownInputs read) {
  try {
    return read();
  } catch (const Error& error) {
    const Fault& fault = error.fault();
    throw Refused{fmt::format("sent a line that does not read: {}: {}{}", fault.field, fault.problem,
                              fault.accepted.empty() ? "" : fmt::format(" ({} is wanted)", fault.accepted))};
  }
}

const Json& field(const Json& json, const char* name) {
  return of_a_line([&]() -> const Json& { return field_of(json, name); });
}

std::int64_t whole(const Json& json, const char* name) {
  return of_a_line([&] { return read_value<std::int64_t>(field_of(json, name), name); });
}

/// Short and without control characters: names are stored and printed.
std::string name(const Json& value, const char* of) {
  std::string text = of_a_line([&] { return read_value<std::string>(value, of); });
  bool plain = !text.empty() && text.size() <= max_name;
  for (const char c : text)
    plain = plain && (std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '-' || c == '_' || c == ' ' || c == '.');
  if (!plain)
    throw Refused{
        fmt::format("sent a \"{}\" that is no plain name of at most {} letters, digits and dashes", of, max_name)};
  return text;
}

Scenario scenario_of(const Json& hello) {
  if (whole(hello, "hello") != drive_version)
    throw Refused{fmt::format("speaks another version of these lines than {}", drive_version)};
  Scenario scenario;
  scenario.name = name(field(hello, "scenario"), "scenario");
  scenario.note = "measured in a running program";
  if (hello.contains("entities")) scenario.entities = name(hello["entities"], "entities");
  const Json& variants = field(hello, "variants");
  if (!variants.is_array() || variants.empty() || variants.size() > max_variants)
    throw Refused{"sent \"variants\" that are no list of names"};
  for (const Json& one : variants) {
    VariantFacts facts;
    facts.name = name(one, "variants");
    if (scenario.find(facts.name) != nullptr) throw Refused{"sent the same variant twice"};
    scenario.variants.push_back(std::move(facts));
  }
  return scenario;
}

std::vector<std::int64_t> frame_times(const Json& json, std::size_t asked) {
  const Json& times = field(json, "frames_ms");
  if (!times.is_array()) throw Refused{"sent \"frames_ms\" that are no list"};
  if (times.size() < asked) throw Refused{fmt::format("sent {} frames, and {} were asked for", times.size(), asked)};
  if (times.size() > flood * asked)
    throw Refused{fmt::format("sent {} frames, where {} were asked for", times.size(), asked)};
  std::vector<std::int64_t> ns;
  for (const Json& time : times) {
    const double ms = time.is_number() ? time.get<double>() : std::nan("");
    if (!(ms > 0) || ms > max_frame_ms) throw Refused{"sent a frame time that is no number of milliseconds above 0"};
    ns.push_back(std::max<std::int64_t>(1, std::llround(ms * 1e6)));
  }
  return ns;
}

std::size_t frames_before_arrival(const Json& json, const RunRequest& request, std::size_t frames) {
  if (!json.contains("arrived_at"))
    throw Refused{fmt::format("sent no \"arrived_at\", and {} were to come at once", request.arrive)};
  const std::int64_t frame = whole(json, "arrived_at");
  if (frame < 1 || frame + request.min_frames > static_cast<std::int64_t>(frames) + 1)
    throw Refused{fmt::format("sent an \"arrived_at\" that leaves fewer than {} frames", request.min_frames)};
  return static_cast<std::size_t>(frame - 1);
}

/// us by frame; 0 for frames not reported.
std::vector<double> told_of_frames(const Json& json, const char* name, std::size_t frames) {
  const Json& pairs = field(json, name);
  const auto is_pair = [&](const Json& pair) {
    return pair.is_array() && pair.size() == 2 && pair[0].is_number_unsigned() && pair[1].is_number() &&
           pair[0].get<std::size_t>() >= 1 && pair[0].get<std::size_t>() <= frames && pair[1].get<double>() > 0 &&
           pair[1].get<double>() < max_frame_ms;
  };
  if (!pairs.is_array() || !std::all_of(pairs.begin(), pairs.end(), is_pair))
    throw Refused{fmt::format("sent \"{}\" that are no list of [frame, microseconds]", name)};
  std::vector<double> values(frames, 0);
  for (const Json& pair : pairs) values[pair[0].get<std::size_t>() - 1] = pair[1].get<double>();
  return values;
}

}  // namespace

std::vector<Scenario> DriveRunner::describe() {
  const auto line = channel_.receive(hello_within_s);
  const auto refuse = [](const std::string& problem) {
    throw Error(
        {.kind = FaultKind::cannot_measure,
         .problem = "the program " + problem,
         .accepted = R"({"hello":1,"scenario":"night","entities":"lanterns","variants":["linked","columns"]})"});
  };
  if (!line && channel_.is_flooded()) hang_up("sent a line that is too long");
  if (!line) refuse(channel_.is_flooded() ? "sent a line that is too long" : "did not say hello");
  try {
    const Json hello = parsed(*line);
    const Scenario scenario = scenario_of(hello);
    if (hello.contains("most")) max_ = whole(hello, "most");
    if (hello.contains("most") && max_ < 1) throw Refused{"sent a \"most\" that is no count"};
    max_ = std::min(max_, max_entities);
    return {scenario};
  } catch (const Refused& refused) {
    hang_up(refused.reason);
    refuse(refused.reason);
  }
  return {};
}

Run DriveRunner::run(const RunRequest& request, double limit_s) {
  if (is_gone()) throw Stopped{};  // Closed by somebody; no failure.
  if (request.check_frames > 0) {
    Run nothing;
    nothing.count = nothing.alive = request.count;
    return nothing;
  }
  RunBracket bracket(request, instruments_);
  if (!probes_itself_) bracket.before_frames();

  const int settlings = request.arrive > 0 ? 3 : 1;  // Before arrivals, and twice as long after.
  const int frames = request.min_frames + settlings * frames_to_settle_in_game;
  ++number_;
  Json next{{"next", number_},        {"variant", request.series.variant},
            {"count", request.count}, {"seed", request.seed},
            {"frames", frames},       {"yardstick", 1}};
  if (request.arrive > 0) next["arrive"] = request.arrive;
  channel_.send(to_line(next));
  const auto line = channel_.receive(limit_s);
  Run run = line ? answered(request, *line, frames) : unanswered(request, limit_s);
  probes_itself_ = run.yardstick.has_value();
  if (run.status != RunStatus::failed && !run.yardstick) bracket.after_frames();
  bracket.tell(run);
  return run;
}

/// A late answer would be taken for the next one's.
Run DriveRunner::unanswered(const RunRequest& request, double limit_s) {
  if (is_gone()) return failed_run(request, "the program is gone");
  if (channel_.is_flooded())
    hang_up("sent a line that is too long");
  else if (is_stop_asked())
    throw Stopped{};
  else
    hang_up(fmt::format("took longer than its limit of {:.3g} s", limit_s));
  return failed_run(request, "the program " + hung_up_because_);
}

void DriveRunner::hang_up(const std::string& because) {
  hung_up_because_ = because;
  channel_.send(to_line({{"end", "this program " + because}}));
  channel_.hang_up();
}

Run DriveRunner::answered(const RunRequest& request, const std::string& line, int frames) {
  try {
    const Json answer = parsed(line);
    if (whole(answer, "done") != number_) throw Refused{"answered another question than the last one"};
    if (of_a_line([&] { return read_or<bool>(answer, "refused", false); })) {
      bad_in_a_row_ = 0;
      return failed_run(request, "the program refused this count");
    }
    Recording recording;
    recording.count = request.count;
    recording.frame_ns = frame_times(answer, static_cast<std::size_t>(frames));
    if (answer.contains("yardstick_us"))
      recording.yardstick_us = told_of_frames(answer, "yardstick_us", recording.frame_ns.size());
    if (answer.contains("waited_us"))
      recording.waited_us = told_of_frames(answer, "waited_us", recording.frame_ns.size());
    frames_shown_ += static_cast<std::int64_t>(recording.frame_ns.size());
    const std::int64_t alive = whole(answer, "alive");
    if (alive != request.count)
      throw Refused{fmt::format("was asked for {} entities, and {} are alive", request.count, alive)};
    if (request.arrive > 0) drop_first(recording, frames_before_arrival(answer, request, recording.frame_ns.size()));
    Run run = run_of(recording, warmup_of(recording.frame_ns, static_cast<std::size_t>(request.min_frames)));
    if (run.yardstick) run.yardstick->program = "driven program";
    run.series = request.series;
    run.count = request.count;
    run.seed = request.seed;
    run.arrived = request.arrive;
    bad_in_a_row_ = 0;
    return run;
  } catch (const Refused& refused) {
    if (++bad_in_a_row_ >= bad_answers_in_a_row)
      hang_up(fmt::format("{}, after {} answers in a row that were none", refused.reason, bad_answers_in_a_row - 1));
    return failed_run(request, "the program " + refused.reason);
  }
}

void DriveRunner::say_goodbye(const std::string& why) {
  if (is_gone()) return;
  channel_.send(to_line({{"end", why}}));
  channel_.hang_up();
}

}  // namespace mileage
