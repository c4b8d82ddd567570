// Whether the variants of a study do the same work: what its checks say.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

enum class AgreementVerdict {
  unchecked,  ///< The study holds no check of the series, or none of its reference.
  agrees,
  approximate,  ///< Differs within what it declares: it is an approximation, and its error is stated.
  differs,
  unstable  ///< Differs from one check to the next.
};

/// Quantities of a check whose picture was compared with the reference's: share of pixels that differ, and mean
/// difference of all channels.
inline constexpr const char* picture_pixels = "picture: share of pixels that differ";
inline constexpr const char* picture_mean = "picture: mean difference";

/// How far its pictures are from the reference's: the worst of its checks.
struct PictureError {
  double pixels = 0;
  double mean = 0;
};

/// What the checks of one series come to.
struct Agreement {
  Series series;
  AgreementVerdict verdict = AgreementVerdict::unchecked;
  std::optional<Disagreement> worst;    ///< The largest difference against its tolerance; nothing where all agree.
  std::int64_t count = 0;               ///< Where the worst difference was seen.
  Knobs varied;                         ///< And with which knobs set otherwise.
  std::optional<PictureError> picture;  ///< Nothing where it leaves none.
  double largest_error = 0;             ///< Largest relative difference of any quantity from the reference.

  /// Whether the series may take part in verdicts.
  bool may_answer() const { return verdict != AgreementVerdict::differs && verdict != AgreementVerdict::unstable; }
};

/// One agreement per series of the plan, in its order.
std::vector<Agreement> agreements_of(const Study& study);

/// The variant whose outcome counts as correct.
const std::string& reference_of(const Scenario& scenario);

/// The reference variant under the conditions of another series, with its own knobs at their defaults: a setting that
/// changes what a frame does is compared with what it changes.
Series reference_series(const Series& series, const Scenario& scenario, const std::string& first_build = {});

}  // namespace mileage
