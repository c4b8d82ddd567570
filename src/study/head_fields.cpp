#include <algorithm>
#include <cmath>

#include <fmt/format.h>

#include "study/json_forms.h"

namespace mileage {
namespace {

bool is_numeric(const Knob& knob) { return knob.numeric(); }
bool is_named(const Knob& knob) { return !knob.numeric(); }

std::optional<Fault> fault_in_counts(const Plan& plan) {
  for (const std::int64_t count : plan.counts)
    if (count < 1)
      return Fault{.field = "counts",
                   .problem = "out of range",
                   .found = fmt::format("{}", count),
                   .accepted = "whole numbers from 1"};
  return std::nullopt;
}

/// Each repeat would get rows, curves and colors.
std::optional<Fault> fault_in_series(const Plan& plan) {
  for (std::size_t i = 0; i < plan.series.size(); ++i)
    if (std::find(plan.series.begin(), plan.series.begin() + static_cast<std::ptrdiff_t>(i), plan.series[i]) !=
        plan.series.begin() + static_cast<std::ptrdiff_t>(i))
      return Fault{.field = "series",
                   .problem = "the same series twice",
                   .found = plan.series[i].variant,
                   .accepted = "each series once"};
  return std::nullopt;
}

std::optional<Fault> fault_in_remembered(const Head& head) {
  for (const auto& [cores, ns] : head.full_speed_on_cores_ns)
    if (!(ns > 0) || !std::isfinite(ns))
      return Fault{.field = "full_speed_on_cores_ns",
                   .problem = "out of range",
                   .found = fmt::format("{}", ns),
                   .accepted = "numbers above 0"};
  return std::nullopt;
}

}  // namespace

template <>
const FieldList& fields_of<Knob>() {
  using K = FieldMaker<Knob>;
  static const FieldList fields{
      K("name", &Knob::name, "Its name.").required().not_empty(),
      K("meaning", &Knob::meaning, "One line."),
      K("unit", &Knob::unit, "Of a numeric knob; empty for a pure number."),
      K("default", &Knob::default_value, "Default value.").was("preset").required(),
      K("min", &Knob::min, "Smallest accepted number.").was("least").when(is_numeric),
      K("max", &Knob::max, "Largest accepted number.").was("most").when(is_numeric),
      K("whole", &Knob::whole, "Whether only whole numbers are accepted.").when(is_numeric),
      K("choices", &Knob::choices, "Accepted names; missing for a numeric knob.").when(is_named),
      K("splits_count", &Knob::splits_count, "Whether the count is split among this many.").was("divides").sparse(),
      K("affects", &Knob::affects, "Variants whose work it changes; empty means all.").was("touches")};
  return fields;
}

template <>
const FieldList& fields_of<Build>() {
  using B = FieldMaker<Build>;
  static const FieldList fields{
      B("compiler", &Build::compiler, "Such as \"12.2.0\"; empty when unknown."),
      B("flags", &Build::flags, "Empty when unknown."), B("known", &Build::known, "Whether `optimized` is known."),
      B("optimized", &Build::optimized, "False for a build whose times mean nothing.").was("optimised")};
  return fields;
}

template <>
const FieldList& fields_of<VariantFacts>() {
  using F = FieldMaker<VariantFacts>;
  static const FieldList fields{
      F("name", &VariantFacts::name, "Its name.").required().not_empty(),
      F("note", &VariantFacts::note, "One line: how it does the work."),
      F("knobs", &VariantFacts::knobs, "Settings that only this variant has.").required(),
      F("unavailable", &VariantFacts::unavailable, "Why it could not run there; empty when it could."),
      F("device", &VariantFacts::device, "Graphics device that it ran on, with its driver; empty for the processor."),
      F("software_device", &VariantFacts::software_device, "Whether that device is the processor's cores in disguise."),
      F("approximate", &VariantFacts::approximate, "Whether its outcome may differ; its error is shown with its cost."),
      F("may_skip", &VariantFacts::may_skip, "Whether it may leave entities alone in a frame."),
      F("effort", &VariantFacts::effort, "One line: what it requires of the programmer; empty if not stated.")
          .was("asks")
          .sparse(),
      F("lines", &VariantFacts::lines, "Its size in lines of code; missing when nobody counted.").from(0).sparse(),
      F("stubs", &VariantFacts::stubs, "Phases that it can leave out; missing where there are none.").sparse()};
  return fields;
}

template <>
const FieldList& fields_of<Expectation>() {
  using E = FieldMaker<Expectation>;
  static const FieldList fields{
      E("counter", &Expectation::counter, "Its name.").required().not_empty(),
      E("per_entity", &Expectation::per_entity, "What it is to come to, for each entity and frame.")
          .required()
          .above_zero()};
  return fields;
}

template <>
const FieldList& fields_of<Scenario>() {
  using S = FieldMaker<Scenario>;
  static const FieldList fields{
      S("name", &Scenario::name, "Its name.").required().not_empty(),
      S("note", &Scenario::note, "One line: what the work is."),
      S("entities", &Scenario::entities, "What is counted, in the plural."),
      S("knobs", &Scenario::knobs, "Conditions of the work.").required(),
      S("step_s", &Scenario::step_s, "Simulated seconds per frame.").in("s").above_zero(),
      S("reference", &Scenario::reference, "Variant whose outcome counts as correct; empty means the first one."),
      S("build", &Scenario::build, "How the variants were built.").required(),
      S("prepares", &Scenario::prepares, "Whether its runs are copies of one loaded process.").sparse(),
      S("expects", &Scenario::expects, "Counters whose amounts are known beforehand; missing where none are.")
          .since(2)
          .sparse(),
      S("variants", &Scenario::variants, "Simplest first.").required(),
      S("entity", &Scenario::entity, "One of the entities, where the plural does not tell it.").sparse()};
  return fields;
}

template <>
const FieldList& fields_of<Goal>() {
  using G = FieldMaker<Goal>;
  static const FieldList fields{
      G("figure", &Goal::figure, "Empty where none was named.").schema("enum", {"", "capacity", "breakeven"}),
      G("budget_ms", &Goal::budget_ms, "Of a capacity; 0 means that of the plan.").in("ms").from(0),
      G("between", &Goal::between, "The two variants of a break-even.").required(),
      G("for_99", &Goal::for_99, "Of a capacity: for 99 % of frames instead of the typical one.").since(2)};
  return fields;
}

template <>
const FieldList& fields_of<Rung>() {
  using R = FieldMaker<Rung>;
  static const FieldList fields{
      R("name", &Rung::name, "As it was written: \"scatter=0\".").required().not_empty(),
      R("knobs", &Rung::knobs, "Values that it sets.").sparse(),
      R("variant", &Rung::variant, "The way that it changes to; missing where that stays.").sparse()};
  return fields;
}

template <>
const FieldList& fields_of<Plan>() {
  using P = FieldMaker<Plan>;
  static const FieldList fields{
      P("series", &Plan::series, "What was measured.").required().fault(fault_in_series),
      P("counts", &Plan::counts, "Ascending.").required().fault(fault_in_counts),
      P("budget_ms", &Plan::budget_ms, "Cells far over it were skipped.").required().in("ms").above_zero(),
      P("blocks", &Plan::blocks, "Passes wanted at most; 0 means as many as time or precision asked for.").from(0),
      P("time_s", &Plan::time_s, "Time allowed; 0 means no limit.").in("s").from(0),
      P("seed", &Plan::seed, "Of the order of runs and of every world."),
      P("min_frames", &Plan::min_frames, "Measured frames per run, at least.").was("least_frames").from(1),
      P("heavy_frames", &Plan::heavy_frames,
        "Least frames of a run whose frames take more than a quarter of the budget.")
          .from(1),
      P("min_ms", &Plan::min_ms, "Measured time per run, at least.").was("least_ms").in("ms").from(0),
      P("arrive", &Plan::arrive, "Number that arrive at once after the others have warmed up; missing where none do.")
          .from(0)
          .sparse(),
      P("rungs", &Plan::rungs,
        "Changes of a ladder whose base is the first series, in order; missing where there is none.")
          .since(2)
          .sparse(),
      P("tune", &Plan::tune, "Knobs whose best value was looked for; missing where there was none.").since(2).sparse(),
      P("trace", &Plan::trace, "Runs of every cell that keep their frames one by one; missing for none.")
          .from(0)
          .since(2)
          .sparse(),
      P("precision", &Plan::precision, "Relative half-width wanted of the goal's intervals; 0 means none.").from(0),
      P("goal", &Plan::goal, "The figure that the study is for."),
      P("aim", &Plan::aim, "Whether counts were added near the figures of the goal; they are in the runs."),
      P("listed", &Plan::listed,
        "Whether the counts were listed one by one, so that each is measured for every series; missing where not.")
          .since(2)
          .sparse(),
      P("max_count", &Plan::max_count, "Largest count to try; missing for no limit.").was("most_count").sparse()};
  return fields;
}

template <>
const FieldList& fields_of<Machine>() {
  using M = FieldMaker<Machine>;
  static const FieldList fields{
      M("processor", &Machine::processor, "As it names itself."),
      M("cores", &Machine::cores, "Of the machine."),
      M("cache_bytes", &Machine::cache_bytes, "Data and unified caches of one core, by name.").in("bytes"),
      M("memory_bytes", &Machine::memory_bytes, "Of the machine.").in("bytes"),
      M("system", &Machine::system, "Kernel name and release."),
      M("governor", &Machine::governor, "How the processor chooses its frequency; empty when unknown."),
      M("pass_bytes_per_s", &Machine::pass_bytes_per_s,
        "What a bare pass reads and writes far beyond the caches, by how many cores do it at once; missing where it "
        "was "
        "not timed.")
          .in("bytes/s")
          .since(2)
          .sparse(),
      M("debugger", &Machine::debugger, "Whether one was attached.")};
  return fields;
}

template <>
const FieldList& fields_of<Head>() {
  using H = FieldMaker<Head>;
  static const FieldList fields{
      H("version", &Head::version, "Of this format.").required().schema("enum", {1, 2, study_format_version}),
      H("program", &Head::program, "Name and version of what wrote the file."),
      H("recorded", &Head::recorded, "Day of recording.").schema("pattern", "^[0-9]{4}-[0-9]{2}-[0-9]{2}$"),
      H("made_by", &Head::made_by,
        "What made the runs: processes of a program that answers requests; commands started for each; a running game "
        "that is driven; a person who recorded on request; frame tables from elsewhere. Missing in older files, where "
        "`imported` or `by_hand` of the plan said some of it."),
      H("scenario", &Head::scenario, "With its variants and their notes.").required(),
      H("plan", &Head::plan, "What was asked for.").required(),
      H("machine", &Head::machine, "Without anything that names it.").required(),
      H("notes", &Head::notes, "What is to be said before any answer, in sentences.").sparse(),
      H("commands", &Head::commands, "Of commands: their lines with placeholders; base names alone.").sparse(),
      H("plan_fingerprint", &Head::plan_fingerprint,
        "Of the text of a plan with commands, so that another plan is not gone on with; `plan_print` in older files.")
          .sparse(),
      H("plan_file", &Head::plan_file, "Base name of the plan file.").sparse(),
      H("yardstick_version", &Head::yardstick_version, "Of the work that the full speed is known for.")
          .since(2)
          .sparse(),
      H("full_speed_ns", &Head::full_speed_ns, "Yardstick time of the machine at full speed, from earlier studies.")
          .was("remembered_yardstick_ns")
          .in("ns")
          .above_zero(),
      H("full_speed_on_cores_ns", &Head::full_speed_on_cores_ns, "The same for several cores at once, by their number.")
          .was("remembered_on_cores_ns")
          .in("ns")
          .fault(fault_in_remembered)
          .sparse()};
  return fields;
}

}  // namespace mileage
