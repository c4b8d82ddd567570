#include <memory>

#include <fmt/format.h>

#include "analysis/answers/against.h"
#include "analysis/answers/break_even.h"
#include "analysis/answers/breakdown.h"
#include "analysis/answers/capacity.h"
#include "analysis/answers/choice.h"
#include "analysis/answers/choice_map.h"
#include "analysis/answers/cost.h"
#include "analysis/answers/frames.h"
#include "analysis/answers/growth.h"
#include "analysis/answers/parts.h"
#include "analysis/answers/shared_frame.h"
#include "tool/answer_options.h"
#include "tool/output.h"
#include "tool/report_files.h"
#include "tool/study_answers.h"
#include "tool/verbs.h"
#include "types/error.h"
#include "views/views.h"
#include "figures/figures.h"

namespace mileage {
namespace {

/// Several studies would overwrite the figure.
FigureFormat only_figure(const AnswerOptions& options, const std::string& figure) {
  if (options.studies.size() > 1)
    throw Error({.kind = FaultKind::usage,
                 .field = "figure",
                 .problem = "one name for several studies",
                 .accepted = "one study with --figure"});
  return figure_format(figure);
}

/// If a file was named.
template <class Draw>
void write_drawing(const AnswerOptions& options, const std::string& file, Answer& view, Draw draw) {
  if (file.empty()) return;
  write_file(file, draw(only_figure(options, file)));
  view.files.push_back(file);
}

/// If a baseline or counts were named.
void add_ratios(const AskedStudy& one, Answer& view) {
  if (!one.questions.baseline.empty() || !one.questions.at.empty())
    view.add(against_view(one.about, against_answer(one.analysis(), one.questions)));
}

void draw_ratios(const AskedStudy& one, const AnswerOptions& options, const std::string& figure, Answer& view) {
  write_drawing(options, figure, view, [&](FigureFormat format) {
    return ratio_figure(one.about, against_answer(one.analysis(), one.questions), format);
  });
}

struct BreakEvenOptions : AnswerOptions {
  std::string figure;
};

struct CurveOptions : AnswerOptions {
  std::string figure;
  bool points = false;
  bool parts = false;
};

Answer curve_of(const AskedStudy& one, const CurveOptions& options) {
  const PartsAnswer parts = parts_answer(one.analysis());
  Answer view = growth_view(one.about, growth_answer(one.analysis(), parts));
  if (options.points)
    for (Table& table : view.tables)
      if (table.name() == "points") table.on_request(false);
  add_ratios(one, view);
  if (options.parts || options.json) view.add(parts_view(one.about, parts));
  draw_ratios(one, options, options.figure, view);
  return view;
}

struct CapacityOptions : AnswerOptions {
  std::string map;
};

Answer capacity_beside(const AskedStudy& one, const RestOfFrame& rest, const CapacityOptions& options) {
  const SharedFrameAnswer shared =
      shared_frame_answer(one.analysis(), rest.analysed.analysis(), rest.asked, one.questions);
  Answer view = shared_frame_view(one.about, shared);
  write_drawing(options, options.map, view,
                [&](FigureFormat format) { return shared_frame_figure(one.about, shared, format); });
  return view;
}

int answer_capacity(const CapacityOptions& options) {
  const auto rest = rest_of_frame(options);
  return answer_studies(
      options, "capacity",
      [&](const AskedStudy& one) {
        if (rest == nullptr) return capacity_of(one.about, one.analysis(), one.questions);
        Answer view = capacity_beside(one, *rest, options);
        if (options.json) view.add(capacity_of(one.about, one.analysis(), one.questions));
        return view;
      },
      true);
}

Answer cost_of(const AskedStudy& one, bool json) {
  const BreakdownAnswer breakdown = breakdown_answer(one.analysis(), one.questions);
  Answer view = breakdown.empty() ? Answer{} : breakdown_view(one.about, breakdown);
  if (breakdown.empty() || json)
    view.add(cost_view(one.about, cost_answer(one.analysis(), parts_answer(one.analysis()), one.questions)));
  return view;
}

struct FramesOptions : AnswerOptions {
  std::string figure;
  std::string work_figure;
  std::string spans;
};

Answer frames_of(const AskedStudy& one, const FramesOptions& options) {
  const FramesAnswer frames = frames_answer(one.analysis(), one.questions);
  Answer view = frames_view(one.about, frames);
  write_drawing(options, options.figure, view,
                [&](FigureFormat format) { return frames_figure(one.about, frames, format); });
  write_drawing(options, options.work_figure, view,
                [&](FigureFormat format) { return work_figure(one.about, frames, format); });
  if (!options.spans.empty()) {
    write_file(options.spans, spans_csv(one.analysis(), frames));
    view.files.push_back(options.spans);
  }
  return view;
}

struct ChoiceOptions : AnswerOptions {
  std::string map;
  std::string map_knob;
};

Answer choice_of(const AskedStudy& one, const ChoiceOptions& options) {
  const ChoiceAnswer choice = choice_answer(one.analysis(), one.questions);
  std::vector<ChoiceMap> maps = choice_maps(one.analysis(), choice);
  if (!options.map_knob.empty()) maps = {map_over(maps, options.map_knob)};
  Answer view = choice_view(one.about, choice, capacity_answer(one.analysis(), one.questions));
  view.add(choice_map_view(one.about, choice, maps));
  write_drawing(options, options.map, view,
                [&](FigureFormat format) { return choice_map_figure(one.about, choice, map_over(maps, ""), format); });
  return view;
}

void add_curve_verb(CommandLine& line) {
  auto options = std::make_shared<CurveOptions>();
  Verb verb = line.add_verb(
      "curve", "How does cost grow: law, exponent, knees, cost per entity",
      "  mileage curve demo/drift.study.jsonl\n  mileage curve demo/drift.study.jsonl --points --parts\n"
      "  mileage curve demo/drift.study.jsonl --baseline objects\n"
      "  mileage curve work.study.jsonl --axis work\n",
      [options] {
        return answer_studies(*options, "curve", [&](const AskedStudy& one) { return curve_of(one, *options); });
      });
  add_studies(verb, *options);
  add_over(verb, *options);
  add_at(verb, *options, "counts to list ratios to the baseline at, such as 20k");
  verb.option("--figure", options->figure, "draw the ratios to the baseline, .png or .svg");
  verb.flag("--points", options->points, "list every measured count too");
  verb.flag("--parts", options->parts, "list where the time goes: threads, phases, counters, memory");
  verb.comes_back("  objects and columns are linear in lanterns; jobs is close to linear (N^0.96).\n");
  add_selection(verb, *options);
  add_more_and_json(verb, *options);
}

void add_capacity_verb(CommandLine& line) {
  auto options = std::make_shared<CapacityOptions>();
  Verb verb =
      line.add_verb("capacity", "How many entities fit the frame budget, and what runs out first",
                    "  mileage capacity demo/drift.study.jsonl --budget 60hz\n"
                    "  mileage capacity demo/drift.study.jsonl --budget 60hz,30hz --reserve 9ms --at 20k\n"
                    "  mileage capacity mine.study.jsonl yours.study.jsonl\n"
                    "  mileage capacity drift.study.jsonl --rest show.study.jsonl --rest-at 5k --map both.png\n",
                    [options] { return answer_capacity(*options); });
  add_studies(verb, *options);
  add_budgets(verb, *options);
  add_at(verb, *options, "counts to show the headroom at, such as 20k");
  add_rest(verb, *options);
  verb.option("--map", options->map, "draw how many of both fit together, .png or .svg");
  verb.option("--memory", options->memory, "how many fit this much memory, such as 512MB");
  verb.option("--tick", options->tick, "a fixed tick with catch-up, such as 50hz: how many keep up");
  verb.option("--spike", options->spike, "a spike that must be made up within a second (default: 100ms)");
  add_over(verb, *options);
  verb.comes_back("  At 60 Hz (16.7 ms): jobs 3.19M lanterns, columns 1.62M, objects 342k.\n");
  add_selection(verb, *options);
  add_more_and_json(verb, *options);
}

void add_breakeven_verb(CommandLine& line) {
  auto options = std::make_shared<BreakEvenOptions>();
  Verb verb = line.add_verb("breakeven", "From which count does a switch pay off, and where do curves cross",
                            "  mileage breakeven demo/drift.study.jsonl\n"
                            "  mileage breakeven demo/drift.study.jsonl --between objects,jobs\n",
                            [options] {
                              return answer_studies(*options, "breakeven", [&](const AskedStudy& one) {
                                Answer view =
                                    break_even_view(one.about, break_even_answer(one.analysis(), one.questions));
                                add_ratios(one, view);
                                draw_ratios(one, *options, options->figure, view);
                                return view;
                              });
                            });
  add_studies(verb, *options);
  verb.option("--between", options->between, "compare all pairs of these variants (default: each with the next)");
  add_at(verb, *options, "counts to list ratios to the baseline at, such as 20k");
  verb.option("--figure", options->figure, "draw the ratios to the baseline, .png or .svg");
  add_budgets(verb, *options);
  add_min_saving(verb, *options);
  add_over(verb, *options);
  verb.comes_back("  Switch from records to columns at 9.3k lanterns, from columns to jobs at 71.7k.\n");
  add_selection(verb, *options);
  add_more_and_json(verb, *options);
}

void add_cost_verb(CommandLine& line) {
  auto options = std::make_shared<AnswerOptions>();
  Verb verb = line.add_verb("cost", "What does a frame cost at a count, does it fit, what does a switch save",
                            "  mileage cost demo/drift.study.jsonl --at 50k\n"
                            "  mileage cost before_after.study.jsonl --budget 60hz --reserve 9ms\n"
                            "  mileage cost work.study.jsonl --at 100k --between columns,mirrored\n",
                            [options] {
                              return answer_studies(*options, "cost",
                                                    [&](const AskedStudy& one) { return cost_of(one, options->json); });
                            });
  add_studies(verb, *options);
  add_at(verb, *options, "counts, such as 50k (default: all where few were measured, else three)");
  verb.option("--between", options->between, "what the difference of two variants is made of: columns,mirrored");
  add_budgets(verb, *options);
  add_over(verb, *options);
  verb.comes_back(
      "  At 50k lanterns: jobs 0.291 ms, columns 0.519, objects 2.42. All fit 16.7 ms. jobs saves 2.13 ms over "
      "objects.\n");
  add_selection(verb, *options);
  add_more_and_json(verb, *options);
}

void add_frames_verb(CommandLine& line) {
  auto options = std::make_shared<FramesOptions>();
  Verb verb = line.add_verb("frames", "Frame by frame at one count: spikes, frames over the budget, warm-up",
                            "  mileage frames work.study.jsonl --at 100k\n"
                            "  mileage frames work.study.jsonl --variants jobs --at 100k --figure frames.png\n",
                            [options] {
                              return answer_studies(*options, "frames",
                                                    [&](const AskedStudy& one) { return frames_of(one, *options); });
                            });
  add_studies(verb, *options);
  add_at(verb, *options, "the count, such as 100k (default: the largest within the budget)");
  add_budgets(verb, *options);
  verb.option("--figure", options->figure, "draw first frames and all frames sorted by time, .png or .svg");
  verb.option("--work-figure", options->work_figure, "draw work by worker, .png or .svg");
  verb.option("--spans", options->spans, "write the batches of traced runs as CSV");
  verb.comes_back(
      "  jobs at 100k lanterns: spikes in 1 in 90 frames (2.10x, up to 31.0 ms), every 90.0 frames (12 of 13).\n");
  add_selection(verb, *options);
  add_more_and_json(verb, *options);
}

void add_choose_verb(CommandLine& line) {
  auto options = std::make_shared<ChoiceOptions>();
  Verb verb = line.add_verb("choose", "Which variant to use from which count on, and at my own count",
                            "  mileage choose demo/drift.study.jsonl --at 3k --reserve 9ms\n"
                            "  mileage choose demo/drift.study.jsonl --at 3k,100k --min-saving 5%\n"
                            "  mileage choose scatter.study.jsonl --map where.png\n",
                            [options] {
                              return answer_studies(*options, "choose",
                                                    [&](const AskedStudy& one) { return choice_of(one, *options); });
                            });
  add_studies(verb, *options);
  add_at(verb, *options, "counts to advise at, such as 3k");
  add_budgets(verb, *options);
  add_min_saving(verb, *options);
  verb.option("--by", options->by,
              "compare by frame (its length), frame-thread (main thread busy), processor-time (all threads) or energy "
              "(default: frame)");
  verb.option("--map", options->map, "draw what to use over the count and a knob, .png or .svg");
  verb.option("--map-knob", options->map_knob, "that knob, where several were measured at several values");
  add_over(verb, *options);
  verb.comes_back("  Use objects up to 8.96k lanterns, columns up to 71.7k, jobs up to 3.19M.\n");
  add_selection(verb, *options);
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
