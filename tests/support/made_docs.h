// The documents that hold parts made from descriptions in the code.
#pragma once

#include <filesystem>
#include <map>
#include <string>

namespace mileage::testing_support {

/// What the files of a folder of docs should hold, by name: made as a whole (study.schema.json), or with the parts
/// between
/// `<!-- made: NAME -->` and `<!-- end -->` made again.
std::map<std::string, std::string> made_docs(const std::filesystem::path& docs);

}  // namespace mileage::testing_support
