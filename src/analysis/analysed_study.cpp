#include "analysis/analysed_study.h"

#include "analysis/analysis.h"

namespace mileage {

AnalysedStudy::AnalysedStudy(Study study, const EvidenceWanted& wanted)
    : study_(std::make_unique<Study>(std::move(study))),
      analysis_(std::make_unique<Analysis>(analyse(*study_, wanted))) {}

AnalysedStudy::~AnalysedStudy() = default;
AnalysedStudy::AnalysedStudy(AnalysedStudy&&) noexcept = default;
AnalysedStudy& AnalysedStudy::operator=(AnalysedStudy&&) noexcept = default;

}  // namespace mileage
