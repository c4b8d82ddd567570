// Whether variants do the same work, from a study's checks.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "study/study.h"

namespace mileage {

enum class AgreementVerdict {
  unchecked,  ///< No check of the series or of its reference.
  agrees,
  approximate,  ///< Within its declared tolerance; the error is reported.
  differs,
  unstable  ///< Differs between checks.
};

/// Outcome quantities: share of pixels that differ, and mean difference over all channels.
inline constexpr const char* picture_pixels = "picture: share of pixels that differ";
inline constexpr const char* picture_mean = "picture: mean difference";

/// Worst difference from the reference over all checks.
struct PictureError {
  double pixels = 0;
  double mean = 0;
};

/// Checks of one series.
struct Agreement {
  Series series;
  AgreementVerdict verdict = AgreementVerdict::unchecked;
  std::optional<Disagreement> worst;  ///< Largest relative to its tolerance; nothing if all agree.
  std::int64_t count = 0;             ///< Of the worst.
  Knobs varied;                       ///< Knobs changed in the worst.
  std::optional<PictureError> picture;
  double largest_error = 0;  ///< Largest relative difference of any quantity.

  /// Whether answers may use the series.
  bool may_answer() const { return verdict != AgreementVerdict::differs && verdict != AgreementVerdict::unstable; }
};

/// By series of the plan.
std::vector<Agreement> agreements_of(const Study& study);

const std::string& reference_of(const Scenario& scenario);

/// The reference variant under the same conditions, its own knobs at their defaults.
Series reference_series(const Series& series, const Scenario& scenario, const std::string& first_build = {});

}  // namespace mileage
