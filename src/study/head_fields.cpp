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
      P("blocks", &Plan::blocks, "Limit; 0: by time or precision.").from(0),
      P("time_s", &Plan::time_s, "Limit; 0: none.").in("s").from(0),
      P("seed", &Plan::seed, "Of the order of runs and of worlds."),
      P("min_frames", &Plan::min_frames, "Measured frames per run.").was("least_frames").from(1),
      P("heavy_frames", &Plan::heavy_frames, "The same where frames take more than a quarter of the budget.").from(1),
      P("min_ms", &Plan::min_ms, "Measured time per run.").was("least_ms").in("ms").from(0),
      P("arrive", &Plan::arrive, "Entities that arrive at once after warm-up.").from(0).sparse(),
      P("rungs", &Plan::rungs, "Changes of a ladder whose base is the first series, in order.").since(2).sparse(),
      P("tune", &Plan::tune, "Knobs whose best value is wanted.").since(2).sparse(),
      P("trace", &Plan::trace, "Runs per cell that keep single frames.").from(0).since(2).sparse(),
      P("precision", &Plan::precision, "Relative half-width wanted of the goal's intervals; 0: none.").from(0),
      P("goal", &Plan::goal, "Figure that the study is for."),
      P("aim", &Plan::aim, "Whether counts near the goal's figures were added."),
      P("listed", &Plan::listed, "Whether counts were listed, so that every series is measured at each.")
          .since(2)
          .sparse(),
      P("max_count", &Plan::max_count, "Largest count to try.").was("most_count").sparse()};
  return fields;
}

template <>
const FieldList& fields_of<Machine>() {
  using M = FieldMaker<Machine>;
  static const FieldList fields{
      M("processor", &Machine::processor, "Its name."),
      M("cores", &Machine::cores, "Of the machine."),
      M("cache_bytes", &Machine::cache_bytes, "Data and unified caches of one core, by name.").in("bytes"),
      M("memory_bytes", &Machine::memory_bytes, "Of the machine.").in("bytes"),
      M("system", &Machine::system, "Kernel name and release."),
      M("governor", &Machine::governor, "How frequency is chosen; empty if unknown."),
      M("pass_bytes_per_s", &Machine::pass_bytes_per_s,
        "Bytes that a plain pass beyond the caches reads and writes, by number of cores.")
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
      H("version", &Head::version, "Format of the file.").required().schema("enum", {1, 2, study_format_version}),
      H("program", &Head::program, "Name and version of the program that wrote it."),
      H("recorded", &Head::recorded, "Date.").schema("pattern", "^[0-9]{4}-[0-9]{2}-[0-9]{2}$"),
      H("made_by", &Head::made_by,
        "What made the runs: program (answers requests); commands (one per run); game (drive); person (by hand); "
        "tables (import)."),
      H("scenario", &Head::scenario, "With its variants and notes.").required(),
      H("plan", &Head::plan, "What was asked for.").required(),
      H("machine", &Head::machine, "Without anything that names it.").required(),
      H("notes", &Head::notes, "Sentences shown before any answer.").sparse(),
      H("commands", &Head::commands, "Command lines with placeholders; base names only.").sparse(),
      H("plan_fingerprint", &Head::plan_fingerprint,
        "Of a plan with commands, so that another plan does not continue it; `plan_print` in older files.")
          .sparse(),
      H("plan_file", &Head::plan_file, "Base name of the plan.").sparse(),
      H("yardstick_version", &Head::yardstick_version, "Of the probe that full speed refers to.").since(2).sparse(),
      H("full_speed_ns", &Head::full_speed_ns, "Probe time at full speed, from earlier studies.")
          .was("remembered_yardstick_ns")
          .in("ns")
          .above_zero(),
      H("full_speed_on_cores_ns", &Head::full_speed_on_cores_ns,
        "The same on several cores at once, by number of cores.")
          .was("remembered_on_cores_ns")
          .in("ns")
          .fault(fault_in_remembered)
          .sparse()};
  return fields;
}

}  // namespace mileage
