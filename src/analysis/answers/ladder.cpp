#include "analysis/answers/ladder.h"

#include <algorithm>
#include <cmath>

#include "analysis/analysis.h"
#include "analysis/answers/questions.h"
#include "analysis/curves/pair.h"
#include "analysis/evidence/labels.h"
#include "analysis/statistics/constants.h"
#include "types/error.h"
#include "types/scenario_knobs.h"

namespace mileage {
namespace {

void set(const Rung& rung, Series& series) {
  for (const auto& [name, value] : rung.knobs.values()) series.knobs.set(name, value);
  if (!rung.variant.empty()) series.variant = rung.variant;
}

std::optional<std::size_t> place_of(const EvidenceSet& evidence, const Series& series) {
  for (std::size_t i = 0; i < evidence.series.size(); ++i)
    if (evidence.series[i].series == series) return i;
  return std::nullopt;
}

std::optional<Change> change_between(const SeriesCurve& with, const SeriesCurve& without, double x) {
  const auto cost_with = with.cost_at(x);
  const auto cost_without = without.cost_at(x);
  if (!cost_with || !cost_without) return std::nullopt;
  const Difference difference = Pair(with, without).at(x);
  return Change{difference.ratio(), difference.ratio_interval(), cost_without->ms - cost_with->ms};
}

std::optional<Change> change_at(const Analysis& analysis, const std::optional<std::size_t>& one,
                                const std::optional<std::size_t>& other, double x) {
  return one && other ? change_between(analysis.curves[*one], analysis.curves[*other], x) : std::nullopt;
}

double place_for(const Analysis& analysis, std::size_t base, const Questions& questions, double budget_ms) {
  const SeriesCurve& curve = analysis.curves[base];
  for (const double x : questions.at)
    if (curve.covers(x)) return x;
  double chosen = curve.min();
  for (const double x : curve.places())
    if (curve.ms_at(x) <= budget_ms) chosen = x;
  return chosen;
}

double error_of(const EvidenceSet& evidence, const Series& series) {
  for (const Agreement& one : evidence.agreements)
    if (one.series == series && one.verdict == AgreementVerdict::approximate) return one.largest_error;
  return 0;
}

bool tells(const std::optional<Change>& change) { return change && change->is_known(); }

bool gains(const std::optional<Change>& change) { return change && change->is_gain(); }

void judge(RungAt& rung) {
  if (!rung.on_top) return;
  rung.is_inconclusive = !tells(rung.on_top) && !tells(rung.alone) && !tells(rung.taken_away);
  rung.only_together = rung.alone && !gains(rung.alone) && (gains(rung.on_top) || gains(rung.taken_away));
}

void find_first_within(LadderAnswer& answer) {
  for (std::size_t i = 0; i < answer.rungs.size() && !answer.first_within; ++i)
    if (answer.rungs[i].cost.ms <= answer.budget_ms) answer.first_within = i;
}

std::size_t only_series(const Analysis& analysis) {
  if (analysis.evidence.series.size() == 1) return 0;
  throw Error({.kind = FaultKind::usage,
               .file = analysis.evidence.study->name,
               .field = "variants",
               .problem = "several series, and a rung is one of them",
               .accepted = "--variants with the name of one"});
}

}  // namespace

Series Ladder::up_to(std::size_t rungs) const {
  Series series = base_;
  for (std::size_t i = 0; i < rungs; ++i) set(rungs_[i], series);
  return fitted(series);
}

Series Ladder::alone(std::size_t rung) const {
  Series series = base_;
  set(rungs_[rung], series);
  return fitted(series);
}

Series Ladder::without_rung(std::size_t rung) const {
  Series series = base_;
  for (std::size_t i = 0; i < rungs_.size(); ++i)
    if (i != rung) set(rungs_[i], series);
  return fitted(series);
}

std::vector<Series> Ladder::all() const {
  std::vector<Series> all;
  const auto add = [&](const Series& series) {
    if (std::find(all.begin(), all.end(), series) == all.end()) all.push_back(series);
  };
  for (std::size_t i = 0; i <= rungs(); ++i) add(up_to(i));
  for (std::size_t i = 0; i < rungs(); ++i) {
    add(alone(i));
    add(without_rung(i));
  }
  return all;
}

Series Ladder::fitted(const Series& series) const {
  Series fitted{series.variant, {}, series.cold_bytes, series.build, series.skipped_phase};
  for (const Knob& knob : knobs_of(scenario_, series.variant)) {
    const auto own = series.knobs.values().find(knob.name);
    fitted.knobs.set(knob.name, own == series.knobs.values().end() ? knob.default_value : own->second);
  }
  return fitted;
}

LadderAnswer ladder_answer(const Analysis& analysis, const Questions& questions) {
  const EvidenceSet& evidence = analysis.evidence;
  const Plan& plan = evidence.head.plan;
  LadderAnswer answer;
  answer.budget_ms = questions.budgets_of(evidence).front();
  if (plan.rungs.empty()) return answer;
  const Ladder ladder(evidence.head.scenario, plan);
  const auto base = place_of(evidence, ladder.up_to(0));
  if (!base) {
    answer.not_measured.emplace_back("base");
    return answer;
  }
  answer.x = place_for(analysis, *base, questions, answer.budget_ms);
  const std::size_t last = plan.rungs.size();
  const auto top = place_of(evidence, ladder.up_to(last));
  std::optional<std::size_t> before;
  for (std::size_t i = 0; i <= last; ++i) {
    const auto here = place_of(evidence, ladder.up_to(i));
    const auto cost = here ? analysis.curves[*here].cost_at(answer.x) : std::nullopt;
    const std::string name = i == 0 ? "base" : plan.rungs[i - 1].name;
    if (!cost) {
      answer.not_measured.push_back(name);
      continue;
    }
    RungAt rung;
    rung.name = name;
    rung.series = *here;
    rung.cost = *cost;
    rung.capacity = capacity(analysis.curves[*here], answer.budget_ms);
    rung.error = error_of(evidence, evidence.series[*here].series);
    if (i > 0) {
      const Rung& planned = plan.rungs[i - 1];
      rung.changes_several = planned.knobs.values().size() + (planned.variant.empty() ? 0 : 1) > 1;
      rung.on_top = change_at(analysis, here, before, answer.x);
      rung.alone = change_at(analysis, place_of(evidence, ladder.alone(i - 1)), base, answer.x);
      rung.has_no_part_at_end = ladder.without_rung(i - 1) == ladder.up_to(last);
      if (!rung.has_no_part_at_end)
        rung.taken_away = change_at(analysis, top, place_of(evidence, ladder.without_rung(i - 1)), answer.x);
    }
    judge(rung);
    answer.rungs.push_back(std::move(rung));
    before = here;
  }
  answer.all = change_at(analysis, top, base, answer.x);
  find_first_within(answer);
  return answer;
}

LadderAnswer ladder_of_studies(const std::vector<const Analysis*>& studies, const std::vector<std::string>& names,
                               const Questions& questions) {
  LadderAnswer answer;
  answer.budget_ms = questions.budgets_of(studies.front()->evidence).front();
  answer.x = place_for(*studies.front(), only_series(*studies.front()), questions, answer.budget_ms);
  std::vector<const SeriesCurve*> curves;  // Of the rungs.
  for (std::size_t i = 0; i < studies.size(); ++i) {
    const std::size_t series = only_series(*studies[i]);
    const auto cost = studies[i]->curves[series].cost_at(answer.x);
    if (!cost) {
      answer.not_measured.push_back(names[i]);
      continue;
    }
    RungAt rung;
    rung.name = names[i];
    rung.series = series;
    rung.cost = *cost;
    rung.capacity = capacity(studies[i]->curves[series], answer.budget_ms);
    if (!curves.empty()) rung.on_top = change_between(studies[i]->curves[series], *curves.back(), answer.x);
    curves.push_back(&studies[i]->curves[series]);
    judge(rung);
    answer.rungs.push_back(std::move(rung));
  }
  if (answer.rungs.size() > 1) answer.all = change_between(*curves.back(), *curves.front(), answer.x);
  find_first_within(answer);
  return answer;
}

}  // namespace mileage
