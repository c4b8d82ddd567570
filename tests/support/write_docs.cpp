// Writes generated documentation: mileage_write_docs FOLDER.
#include <filesystem>
#include <iostream>

#include "support/made_docs.h"
#include "support/scratch.h"

int main(int argc, char** argv) {
  if (argc != 2) return 2;
  for (const auto& [file, text] : mileage::testing_support::made_docs(argv[1])) {
    mileage::testing_support::write_text(std::filesystem::path(argv[1]) / file, text);
    std::cout << file << '\n';
  }
  return 0;
}
