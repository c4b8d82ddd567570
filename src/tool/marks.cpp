#include "tool/marks.h"

#include <cstdint>
#include <string_view>

#include <zlib.h>

namespace mileage {
namespace {

constexpr std::string_view mark_words = "written by mileage";
constexpr std::string_view png_signature = "\x89PNG\r\n\x1a\n";
/// Other chunks may follow.
constexpr std::size_t png_head = 8 + 25;

std::string big_endian(std::uint32_t number) {
  std::string bytes;
  for (const unsigned shift : {24U, 16U, 8U, 0U}) bytes += static_cast<char>((number >> shift) & 0xFFU);
  return bytes;
}

/// PNG specification, third edition, 11.3.3.2.
std::string png_text_chunk() {
  const std::string body = std::string("tEXtSoftware") + '\0' + std::string(mark_words);
  const auto checksum = static_cast<std::uint32_t>(
      ::crc32(0, reinterpret_cast<const unsigned char*>(body.data()), static_cast<unsigned>(body.size())));
  return big_endian(static_cast<std::uint32_t>(body.size() - 4)) + body + big_endian(checksum);
}

}  // namespace

std::string with_mark(const std::string& bytes) {
  std::string marked = bytes;
  const std::string comment = "<!-- " + std::string(mark_words) + " -->\n";
  if (bytes.rfind(png_signature, 0) == 0 && bytes.size() > png_head)
    marked.insert(png_head, png_text_chunk());
  else if (bytes.rfind("<?xml", 0) == 0 || bytes.rfind("<!DOCTYPE html>", 0) == 0)
    marked.insert(bytes.find('\n') + 1, comment);
  return marked;
}

bool has_mark(const std::string& start) { return start.find(mark_words) != std::string::npos; }

}  // namespace mileage
