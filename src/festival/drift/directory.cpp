#include "festival/drift/directory.h"

namespace mileage::festival {

void Directory::offer(const std::string& name, const void* thing) { things_[name] = thing; }

const void* Directory::thing(const std::string& name) const { return things_.at(name); }

}  // namespace mileage::festival
