// Generated documentation.
#pragma once

#include <filesystem>
#include <map>
#include <string>

namespace mileage::testing_support {

/// By file name: generated as a whole (study.schema.json), or between `<!-- made: NAME -->` and `<!-- end -->`.
std::map<std::string, std::string> made_docs(const std::filesystem::path& docs);

}  // namespace mileage::testing_support
