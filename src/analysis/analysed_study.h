// A study with its analysis.
#pragma once

#include <memory>
#include <string>

#include "analysis/evidence/evidence_wanted.h"
#include "study/study.h"

namespace mileage {

struct Analysis;

class AnalysedStudy {
 public:
  /// Throws Error as analyse() does.
  explicit AnalysedStudy(Study study, const EvidenceWanted& wanted = {});
  ~AnalysedStudy();
  AnalysedStudy(AnalysedStudy&&) noexcept;
  AnalysedStudy& operator=(AnalysedStudy&&) noexcept;

  const Study& study() const { return *study_; }
  const Analysis& analysis() const { return *analysis_; }

 private:
  std::unique_ptr<Study> study_;  // The analysis refers to it.
  std::unique_ptr<Analysis> analysis_;
};

}  // namespace mileage
