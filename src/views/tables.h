// The answers of a study as tables, one function per question; the terminal and the page show the same ones.
#pragma once

#include <string>
#include <vector>

#include "analysis/findings.h"
#include "views/text_table.h"

namespace mileage {

/// Capacity per series for one of the budgets.
TextTable capacity_table(const Findings& findings, double budget_ms);
/// Capacities of several studies side by side, one row per variant, machine and budget.
TextTable capacity_table(const std::vector<Findings>& studies);
/// What share of a budget the series take at the places asked for, and what is left of it.
TextTable headroom_table(const Findings& findings, double budget_ms);
/// Commands that measure what a capacity lacks where extrapolating ends.
std::vector<std::string> missing_measurements(const Findings& findings);
/// One sentence that answers first: who goes farthest, who least.
std::string capacity_sentence(const Findings& findings, double budget_ms);

/// One row per break-even.
TextTable break_even_table(const Findings& findings);
/// One line per pair without a break-even: which is cheaper, and how it is known.
std::vector<std::string> lines_without_break_even(const Findings& findings);
std::string break_even_sentence(const Findings& findings);

/// What a frame costs at given places, per series of a group, and which share of the first series' time that is.
TextTable cost_table(const Findings& findings, const GroupFinding& group);

/// Growth of each series: law, fixed cost, cost per entity, exponent, where it was measured.
TextTable growth_table(const Findings& findings);
/// The laws that growth follows, in words.
TextTable law_table(const Findings& findings);
/// One line per knee: where, with its interval, and the cache that holds about as much.
std::vector<std::string> knee_lines(const Findings& findings);
/// Every cell of a series: milliseconds with interval, nanoseconds per entity.
TextTable point_table(const Findings& findings, const SeriesFinding& series);

/// Where the time of a frame goes, per count: busy thread, all threads, cores used, phases; then counters and memory.
TextTable parts_table(const Findings& findings, const SeriesFinding& series);

/// Processor and device side by side for the series that run on a device, and which of them runs out first; neighbouring places
/// with the same answer in one row. Empty where none does.
TextTable device_table(const Findings& findings);

/// A series held against another, place by place.
TextTable against_table(const Findings& findings, const AgainstFinding& one);

/// What each series would lose if it were used everywhere.
TextTable everywhere_table(const Findings& findings, const GroupFinding& group);
/// What frames cost at a place that was asked for, whether anything is worth changing there, and from where on it is.
std::string advice_sentence(const Findings& findings, const GroupFinding& group, const Advice& advice);

/// From where to where which series is to be used.
TextTable choice_table(const Findings& findings, const GroupFinding& group);
/// What "no difference worth it" means in this study.
std::string worth_text(const Findings& findings);

/// Every cell of every series as CSV, with interval.
std::string summaries_csv(const Findings& findings);

/// How quiet the machine was, in one line.
std::string quietness_text(const Findings& findings);

/// One line per series and reason for which visits failed, at most `most` of them and a line that counts the rest.
std::vector<std::string> failure_lines(const Findings& findings, std::size_t most = 8);

}  // namespace mileage
