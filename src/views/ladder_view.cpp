#include "views/views.h"

#include <algorithm>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "views/words.h"

namespace mileage {
namespace {

bool is_beyond(const Capacity& capacity) { return !capacity.at && capacity.none != NoCapacity::over_at_once; }

Entry change_cell(const std::optional<Change>& change) {
  return change ? Entry{change->takes, change->takes_interval} : absent("-");
}

Table rungs_table(const About& about, const LadderAnswer& answer) {
  const bool is_any_capacity = std::any_of(answer.rungs.begin(), answer.rungs.end(),
                                           [](const RungAt& rung) { return !is_beyond(rung.capacity); });
  Table table(
      about, "rungs", "",
      {{"rung", "change", Format::text, "the change"},
       {about.axis.name, "", Format::place, "place on the axis"},
       {"ms", "ms/frame", Format::number, "with this change and those before it, ms", Spread::inside},
       {"on_top", "on top of the last", Format::ratio, "relative to the rung before", Spread::hidden},
       {"alone", "alone", Format::ratio, "the base with this change alone, relative to the base", Spread::hidden},
       {"removed_last", "removed last", Format::ratio, "all changes relative to all but this one", Spread::hidden},
       {"capacity", is_any_capacity ? fmt::format("capacity in {}", ms_text(answer.budget_ms)) : "", Format::place,
        "largest number within the budget", Spread::inside},
       {"error", "error", Format::percent, "largest relative difference of its outcome from the reference"},
       {"no_part_at_end", "", Format::flag, "a later change undoes it"},
       {"inconclusive", "", Format::flag, "no effect is significant"},
       {"only_together", "", Format::flag, "an effect only together with others"},
       {"changes_several", "", Format::flag, "several settings at once"}});
  for (const RungAt& rung : answer.rungs)
    table.row({rung.name,
               answer.x,
               {rung.cost.ms, rung.cost.interval},
               change_cell(rung.on_top),
               change_cell(rung.alone),
               rung.has_no_part_at_end ? absent("undone later") : change_cell(rung.taken_away),
               capacity_cell(about, rung.capacity),
               rung.error > 0 ? Entry(rung.error) : absent(),
               rung.has_no_part_at_end,
               rung.is_inconclusive,
               rung.only_together,
               rung.changes_several});
  return table;
}

void note_where(Answer& view, const LadderAnswer& answer, bool RungAt::*holds, const char* words) {
  std::vector<std::string> names;
  for (const RungAt& rung : answer.rungs)
    if (rung.*holds) names.push_back(rung.name);
  if (!names.empty()) view.note(fmt::format("{}: {}.", fmt::join(names, "; "), words));
}

}  // namespace

std::string ladder_sentence(const About& about, const LadderAnswer& answer) {
  std::string text = "At " + named_place(answer.x, about.axis);
  const std::size_t changes = answer.rungs.size() - 1;
  if (answer.all) {
    const Column ratio{"", "", Format::ratio, "", Spread::inside};
    const std::string range = spread_text(answer.all->takes_interval, ratio, about.axis);
    text += fmt::format(", {} change{} together: {} → {} ({}{})", changes, changes == 1 ? "" : "s",
                        three_digits(answer.rungs.front().cost.ms), ms_text(answer.rungs.back().cost.ms),
                        ratio_text(answer.all->takes), range.empty() ? "" : ", " + range);
  }
  const std::string budget = ms_text(answer.budget_ms);
  if (!answer.first_within) return text + fmt::format(". None fits {}.", budget);
  return *answer.first_within == 0
             ? text + "."
             : text + fmt::format(". From {} on it fits {}.", answer.rungs[*answer.first_within].name, budget);
}

Answer ladder_view(const About& about, const LadderAnswer& answer) {
  Answer view;
  if (answer.rungs.empty()) {
    view.verdict.emplace_back(answer.not_measured.empty() ? "The study holds no ladder." : "No rung was measured.");
    view.next.push_back(pasted_command("ladder --help"));
    return view;
  }
  view.verdict.push_back(ladder_sentence(about, answer));
  view.tables.push_back(rungs_table(about, answer));
  note_where(view, answer, &RungAt::is_inconclusive, "no significant effect");
  note_where(view, answer, &RungAt::only_together, "significant only together with others");
  note_where(view, answer, &RungAt::changes_several, "several settings at once, so their shares are unknown");
  if (!answer.not_measured.empty())
    view.note(fmt::format("not measured there: {}.", fmt::join(answer.not_measured, "; ")));
  if (std::all_of(answer.rungs.begin(), answer.rungs.end(),
                  [](const RungAt& rung) { return is_beyond(rung.capacity); }))
    view.note(fmt::format("capacities in {} are beyond what was measured; add larger counts to --at.",
                          ms_text(answer.budget_ms)),
              true);
  return view;
}

}  // namespace mileage
