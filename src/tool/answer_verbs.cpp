// cost, curve, capacity, breakeven, choose: verbs that answer from study files.
#include <memory>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include "analysis/answers/against.h"
#include "analysis/answers/arrivals.h"
#include "analysis/answers/break_even.h"
#include "analysis/answers/breakdown.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/choice.h"
#include "analysis/answers/choice_map.h"
#include "analysis/answers/cost.h"
#include "analysis/answers/frames.h"
#include "analysis/answers/growth.h"
#include "analysis/answers/limits.h"
#include "analysis/answers/parts.h"
#include "analysis/answers/shared_frame.h"
#include "tool/answer_options.h"
#include "tool/exit_codes.h"
#include "tool/output.h"
#include "tool/report_files.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "views/about_view.h"
#include "views/against_view.h"
#include "views/answer_json.h"
#include "views/arrivals_view.h"
#include "views/break_even_view.h"
#include "views/breakdown_view.h"
#include "views/capacity_view.h"
#include "views/choice_map_view.h"
#include "views/choice_view.h"
#include "views/cost_view.h"
#include "views/frames_figure.h"
#include "views/frames_view.h"
#include "views/growth_view.h"
#include "views/limits_view.h"
#include "views/parts_view.h"
#include "views/ratio_figure.h"
#include "views/shared_frame_view.h"

namespace mileage {
namespace {

std::string evidence(const About& about, bool more) { return more ? evidence_footer(about) : evidence_line(about); }

/// Answers study by study: into one JSON with the envelope of the verb, or as text between what stands around it.
template <class AddJson, class AsText>
int answer(const AnswerOptions& options, const char* verb, AddJson add_json, AsText as_text,
           bool bounds_suffice = false) {
  const std::vector<AskedStudy> studies = analyse_studies(options, bounds_suffice);
  if (options.json) {
    std::vector<About> abouts;
    for (const AskedStudy& one : studies) abouts.push_back(one.about);
    Json json = envelope(verb, abouts);
    for (const AskedStudy& one : studies) {
      add_json(json, one);
      add_not_measured_json(json, one);
    }
    print(json);
    return exit_code_for(studies);
  }
  std::string text;
  for (const AskedStudy& one : studies)
    text += preamble(one.about) + as_text(one) + not_measured_text(one) + evidence(one.about, options.more);
  print(text);
  return exit_code_for(studies);
}

/// More than one study would overwrite the figure.
FigureFormat only_figure(const AnswerOptions& options, const std::string& figure) {
  if (options.studies.size() > 1)
    throw Error({.kind = FaultKind::usage,
                 .field = "figure",
                 .problem = "one name for several studies",
                 .accepted = "one study with --figure"});
  return figure_format(figure);
}

/// Ratios over the count, where a figure of them is asked for.
void draw_ratios(const AskedStudy& one, const AnswerOptions& options, const std::string& figure) {
  if (figure.empty()) return;
  const FigureFormat format = only_figure(options, figure);
  const std::string& against = options.against.empty() ? slowest_variant(one.analysis()) : options.against;
  write_file(figure, ratio_figure(one.about, against_answer(one.analysis(), against), format));
  if (!options.json) print(fmt::format("figure: {}\n\n", figure));
}

struct BreakEvenOptions : AnswerOptions {
  std::string figure;
};

struct CurveOptions : AnswerOptions {
  std::string figure;
  bool points = false;
  bool parts = false;
};

int answer_curve(const CurveOptions& options) {
  const auto as_json = [&](Json& json, const AskedStudy& one) {
    draw_ratios(one, options, options.figure);
    const PartsAnswer parts = parts_answer(one.analysis());
    add_growth_json(json, one.about, growth_answer(one.analysis(), parts, true));
    add_parts_json(json, parts, one.about.axis);
    add_against_json(json, one.about, against_answer(one.analysis(), one.questions.against));
  };
  const auto as_text = [&](const AskedStudy& one) {
    draw_ratios(one, options, options.figure);
    const PartsAnswer parts = parts_answer(one.analysis());
    const GrowthAnswer growth = growth_answer(one.analysis(), parts, false);
    return against_text(one.about, against_answer(one.analysis(), one.questions.against)) +
           growth_text(one.about, growth) + (options.points ? points_text(one.about, growth) : "") +
           (options.parts ? parts_text(one.about, parts) : "");
  };
  return answer(options, "curve", as_json, as_text);
}

LimitsAnswer limits_of(const AskedStudy& one, const PartsAnswer& parts) {
  return limits_answer(one.analysis(), parts, growth_answer(one.analysis(), parts, false), one.questions);
}

/// Studies in one table.
int answer_capacities_side_by_side(const AnswerOptions& options) {
  const std::vector<AskedStudy> studies = analyse_studies(options);
  std::string before, after;
  TextTable table = capacities_side_by_side();
  for (const AskedStudy& one : studies) {
    before += preamble(one.about);
    before += machine_line(one.about);
    add_capacities_side_by_side(table, one.about, capacity_answer(one.analysis(), one.questions));
    after += evidence(one.about, options.more);
  }
  print(before + "\n" + table.text() + "\n" + after);
  return exit_answered;
}

struct CapacityOptions : AnswerOptions {
  std::string map;
};

/// Nothing where no rest of the frame was named; draws the map where that is asked for.
std::optional<SharedFrameAnswer> beside_the_rest(const AskedStudy& one, const RestOfFrame* rest,
                                                 const CapacityOptions& options) {
  if (rest == nullptr) return std::nullopt;
  SharedFrameAnswer answer = shared_frame_answer(one.analysis(), rest->analysed.analysis(), rest->asked, one.questions);
  if (options.map.empty()) return answer;
  write_file(options.map, shared_frame_figure(one.about, answer, only_figure(options, options.map)));
  if (!options.json) print(fmt::format("figure: {}\n\n", options.map));
  return answer;
}

int answer_capacity(const CapacityOptions& options) {
  const auto rest = rest_of_frame(options);
  if (options.studies.size() > 1 && !options.json) return answer_capacities_side_by_side(options);
  const auto as_json = [&](Json& json, const AskedStudy& one) {
    if (const auto shared = beside_the_rest(one, rest.get(), options)) add_shared_frame_json(json, one.about, *shared);
    add_capacity_json(json, one.about, capacity_answer(one.analysis(), one.questions));
    add_arrivals_json(json, one.about, arrivals_answer(one.analysis(), one.questions));
    const PartsAnswer parts = parts_answer(one.analysis());
    add_devices_json(json, one.about, parts);
    add_limits_json(json, one.about, limits_of(one, parts));
  };
  const auto as_text = [&](const AskedStudy& one) {
    if (const auto shared = beside_the_rest(one, rest.get(), options)) return shared_frame_text(one.about, *shared);
    const CapacityAnswer capacities = capacity_answer(one.analysis(), one.questions);
    const PartsAnswer parts = parts_answer(one.analysis());
    return capacity_text(one.about, capacities) +
           arrivals_text(one.about, arrivals_answer(one.analysis(), one.questions), capacities) +
           device_text(one.about, parts) + limits_text(one.about, limits_of(one, parts)) +
           missing_measurements_text(one.about, capacities);
  };
  return answer(options, "capacity", as_json, as_text, true);
}

int answer_break_even(const BreakEvenOptions& options) {
  const auto as_json = [&](Json& json, const AskedStudy& one) {
    draw_ratios(one, options, options.figure);
    add_break_even_json(json, one.about, break_even_answer(one.analysis(), one.questions));
  };
  const auto as_text = [&](const AskedStudy& one) {
    draw_ratios(one, options, options.figure);
    return break_even_text(one.about, break_even_answer(one.analysis(), one.questions));
  };
  return answer(options, "breakeven", as_json, as_text);
}

int answer_cost(const AnswerOptions& options) {
  const auto costs = [](const AskedStudy& one) {
    return cost_answer(one.analysis(), parts_answer(one.analysis()), one.questions);
  };
  const auto as_json = [&](Json& json, const AskedStudy& one) {
    add_cost_json(json, one.about, costs(one));
    add_breakdown_json(json, one.about, breakdown_answer(one.analysis(), one.questions));
  };
  const auto as_text = [&](const AskedStudy& one) {
    const BreakdownAnswer breakdown = breakdown_answer(one.analysis(), one.questions);
    return breakdown.empty() ? cost_text(one.about, costs(one)) : breakdown_text(one.about, breakdown);
  };
  return answer(options, "cost", as_json, as_text);
}

struct FramesOptions : AnswerOptions {
  std::string figure;
  std::string work_figure;
  std::string spans;
};

FramesAnswer frames_with_figure(const AskedStudy& one, const FramesOptions& options) {
  FramesAnswer frames = frames_answer(one.analysis(), one.questions);
  const auto written = [&](const char* what, const std::string& file, const std::string& content) {
    write_file(file, content);
    if (!options.json) print(fmt::format("{}: {}\n\n", what, file));
  };
  if (!options.figure.empty())
    written("figure", options.figure, frames_figure(one.about, frames, only_figure(options, options.figure)));
  if (!options.work_figure.empty())
    written("figure", options.work_figure, work_figure(one.about, frames, only_figure(options, options.work_figure)));
  if (!options.spans.empty()) written("spans", options.spans, spans_csv(one.analysis(), frames));
  return frames;
}

int answer_frames(const FramesOptions& options) {
  const auto as_json = [&](Json& json, const AskedStudy& one) {
    add_frames_json(json, one.about, frames_with_figure(one, options));
  };
  const auto as_text = [&](const AskedStudy& one) { return frames_text(one.about, frames_with_figure(one, options)); };
  return answer(options, "frames", as_json, as_text);
}

struct ChoiceOptions : AnswerOptions {
  std::string map;
  std::string map_knob;
};

struct ChoiceWithMaps {
  ChoiceAnswer choice;
  std::vector<ChoiceMap> maps;
};

/// Draws the map where that is asked for.
ChoiceWithMaps choice_with_maps(const AskedStudy& one, const ChoiceOptions& options) {
  ChoiceWithMaps answer{choice_answer(one.analysis(), one.questions), {}};
  answer.maps = choice_maps(one.analysis(), answer.choice);
  if (!options.map_knob.empty()) answer.maps = {map_over(answer.maps, options.map_knob)};
  if (options.map.empty()) return answer;
  const FigureFormat format = only_figure(options, options.map);
  write_file(options.map, choice_map_figure(one.about, answer.choice, map_over(answer.maps, ""), format));
  if (!options.json) print(fmt::format("figure: {}\n\n", options.map));
  return answer;
}

int answer_choice(const ChoiceOptions& options) {
  const auto as_json = [&](Json& json, const AskedStudy& one) {
    const ChoiceWithMaps answer = choice_with_maps(one, options);
    add_choice_json(json, one.about, answer.choice);
    add_choice_map_json(json, one.about, answer.choice, answer.maps);
  };
  const auto as_text = [&](const AskedStudy& one) {
    const ChoiceWithMaps answer = choice_with_maps(one, options);
    return choice_text(one.about, answer.choice, capacity_answer(one.analysis(), one.questions), options.more) +
           choice_map_text(one.about, answer.choice, answer.maps);
  };
  return answer(options, "choose", as_json, as_text);
}

void add_curve_verb(CommandLine& line) {
  auto options = std::make_shared<CurveOptions>();
  Verb verb =
      line.add_verb("curve", "How does cost grow with count: law, exponent, cost per entity",
                    "  mileage curve demo/drift.study.jsonl\n  mileage curve demo/drift.study.jsonl --points --parts\n"
                    "  mileage curve demo/drift.study.jsonl --against objects\n"
                    "  mileage curve work.study.jsonl --over work\n",
                    [options] { return answer_curve(*options); });
  add_studies(verb, *options);
  add_over(verb, *options);
  verb.option("--against", options->against, "hold all others against this variant, count by count");
  verb.option("--figure", options->figure,
              "draw the ratios to it over the count, as .png or .svg (without --against to the slowest)");
  verb.flag("--points", options->points, "list every measured count too");
  verb.flag("--parts", options->parts, "list where the time goes: threads, phases, counters, memory");
  verb.comes_back(
      "    variant  exponent (95 %)      at the ends   measured      ns a lantern there\n"
      "    columns  1.01 (0.99 to 1.02)  0.9 to 1.00   100 to 1.9M   11.0 to 10.2\n"
      "    columns  grows in proportion: no fixed cost, 10.3 ns a lantern; within 2.1 % of every point\n");
  add_more_and_json(verb, *options);
}

void add_capacity_verb(CommandLine& line) {
  auto options = std::make_shared<CapacityOptions>();
  Verb verb =
      line.add_verb("capacity", "How many entities fit a frame budget",
                    "  mileage capacity demo/drift.study.jsonl --budget 60hz\n"
                    "  mileage capacity demo/drift.study.jsonl --budget 60hz,30hz --reserve 9ms --at 20k\n"
                    "  mileage capacity mine.study.jsonl yours.study.jsonl\n"
                    "  mileage capacity drift.study.jsonl --rest show.study.jsonl --rest-at 5k --map both.png\n",
                    [options] { return answer_capacity(*options); });
  add_studies(verb, *options);
  add_budgets(verb, *options);
  add_at(verb, *options, "counts to state the headroom at, such as 20k");
  add_rest(verb, *options);
  verb.option("--map", options->map, "draw how many of both fit together, as .png or .svg");
  verb.option("--memory", options->memory, "how far each goes in so much memory, such as 512MB");
  verb.option("--tick", options->tick,
              "a fixed tick with catch-up, such as 50hz: the count from which it falls behind for ever");
  verb.option("--spike", options->spike, "a spike that such ticks are to make good within a second (preset: 100ms)");
  add_over(verb, *options);
  verb.comes_back(
      "  In 16.7 ms (60 Hz), jobs holds 3.19M lanterns, columns 1.62M, objects only 354k.\n"
      "    variant  capacity  95 % interval     read\n"
      "    columns     1.62M  (1.58M to 1.65M)  from counts around it\n");
  add_more_and_json(verb, *options);
}

void add_breakeven_verb(CommandLine& line) {
  auto options = std::make_shared<BreakEvenOptions>();
  Verb verb = line.add_verb("breakeven", "From which count on is one variant cheaper than another, and worth it",
                            "  mileage breakeven demo/drift.study.jsonl\n"
                            "  mileage breakeven demo/drift.study.jsonl --between objects,jobs\n",
                            [options] { return answer_break_even(*options); });
  add_studies(verb, *options);
  verb.option("--between", options->between, "look at all pairs of these variants (preset: each with the next one)");
  verb.option("--figure", options->figure, "draw the ratios to the slowest variant over the count, as .png or .svg");
  add_budgets(verb, *options);
  add_worth(verb, *options);
  add_over(verb, *options);
  verb.comes_back(
      "    use      instead of   from  95 % interval     saves then\n"
      "    columns  objects      9.4k  (9.09k to 9.72k)  18.2 ms at 496k\n"
      "    jobs     columns     78.4k  (65.4k to 98.7k)  11.3 ms at 2.2M\n");
  add_more_and_json(verb, *options);
}

void add_cost_verb(CommandLine& line) {
  auto options = std::make_shared<AnswerOptions>();
  Verb verb = line.add_verb("cost", "What does a frame cost at a count, does it fit, what would be gained",
                            "  mileage cost demo/drift.study.jsonl --at 50k\n"
                            "  mileage cost before_after.study.jsonl --budget 60hz --reserve 9ms\n"
                            "  mileage cost work.study.jsonl --at 100k --between columns,mirrored\n",
                            [options] { return answer_cost(*options); });
  add_studies(verb, *options);
  add_at(verb, *options, "your own counts, such as 50k (preset: those measured where they are few, else three)");
  verb.option("--between", options->between,
              "what the difference of these two is made of, such as columns,mirrored: phases, waiting, counters");
  add_budgets(verb, *options);
  add_over(verb, *options);
  verb.comes_back(
      "  At 50k lanterns, jobs takes 0.312 ms, columns 0.527, objects 2.38; all fit 16.7 ms; jobs saves 2.06 ms ...\n"
      "    lanterns  variant  ms a frame (95 %)    in 16.7 ms       of the time of objects  saves ms\n"
      "         50k  jobs     0.312 (0.29 to 0.33) fits, 16.3 left  0.131 (0.12 to 0.14)        2.06\n");
  add_more_and_json(verb, *options);
}

void add_frames_verb(CommandLine& line) {
  auto options = std::make_shared<FramesOptions>();
  Verb verb = line.add_verb("frames", "One cell frame by frame: spikes, settling, frames over the budget",
                            "  mileage frames work.study.jsonl --at 100k\n"
                            "  mileage frames work.study.jsonl --variants jobs --at 100k --figure frames.png\n",
                            [options] { return answer_frames(*options); });
  add_studies(verb, *options);
  add_at(verb, *options, "the count to look at, such as 100k (preset: the largest within the budget)");
  verb.option("--variants", options->between, "only these variants, such as objects,jobs");
  add_budgets(verb, *options);
  verb.option("--figure", options->figure,
              "draw the first frames laid over each other, and all frames sorted by time, as .png or .svg");
  verb.option("--work-figure", options->work_figure, "draw the work by worker as sorted bars, as .png or .svg");
  verb.option("--spans", options->spans, "write the batches of traced visits as CSV");
  verb.comes_back(
      "  jobs at 100k lanterns: 11.1 of 1,000 frames spike, to 2.1 times the frames around them, every 90 frames ...\n"
      "    variant  frames  typical ms  spikes in 1,000 (95 %)  times around  they come\n"
      "    jobs       1200       0.530  11.1 (10.2 to 12.0)             2.10  every 90.0 frames (12 of 13 due)\n");
  add_more_and_json(verb, *options);
}

void add_choose_verb(CommandLine& line) {
  auto options = std::make_shared<ChoiceOptions>();
  Verb verb = line.add_verb("choose", "Which variant to use from which count to which; what to do at a count",
                            "  mileage choose demo/drift.study.jsonl --at 3k --reserve 9ms\n"
                            "  mileage choose demo/drift.study.jsonl --at 3k,100k --worth 5%\n"
                            "  mileage choose scatter.study.jsonl --map where.png\n",
                            [options] { return answer_choice(*options); });
  add_studies(verb, *options);
  add_at(verb, *options, "your own counts, such as 3k");
  add_budgets(verb, *options);
  add_worth(verb, *options);
  verb.option("--by", options->by,
              "what a frame costs: frame (its length), frame-thread (how long its thread is busy), processor-time (of "
              "all threads) or energy (of the machine)");
  verb.option("--map", options->map, "draw where each wins over the count and a knob of the scenario, as .png or .svg");
  verb.option("--map-knob", options->map_knob, "that knob, where several were measured at several values");
  add_over(verb, *options);
  verb.comes_back(
      "   from  95 % interval        to  use      saves against objects         because\n"
      "    100                     9.4k  objects                                no difference is worth it\n"
      "   9.4k  (9.09k to 9.72k)  78.4k  columns  0.333 to 2.81 ms at 78.4k  the simplest that saves enough\n");
  add_more_and_json(verb, *options);
}

}  // namespace

void add_answer_verbs(CommandLine& line) {
  add_cost_verb(line);
  add_curve_verb(line);
  add_capacity_verb(line);
  add_breakeven_verb(line);
  add_choose_verb(line);
  add_frames_verb(line);
}

}  // namespace mileage
