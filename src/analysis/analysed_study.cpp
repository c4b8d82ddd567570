#include "analysis/analysed_study.h"

#include "analysis/analysis.h"

namespace mileage {

AnalysedStudy::AnalysedStudy(Study study, const std::string& axis, bool bounds_suffice, CostOf cost_of)
    : study_(std::make_unique<Study>(std::move(study))),
      analysis_(std::make_unique<Analysis>(analyse(*study_, {axis, false, bounds_suffice, cost_of}))) {}

AnalysedStudy::~AnalysedStudy() = default;
AnalysedStudy::AnalysedStudy(AnalysedStudy&&) noexcept = default;
AnalysedStudy& AnalysedStudy::operator=(AnalysedStudy&&) noexcept = default;

}  // namespace mileage
