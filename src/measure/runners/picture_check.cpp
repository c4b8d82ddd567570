#include "measure/runners/picture_check.h"

#include <algorithm>
#include <cstdlib>

#include <png.h>

#include "system/files.h"
#include "types/error.h"

namespace mileage {
namespace {

constexpr std::uintmax_t max_picture_bytes = std::uintmax_t{64} << 20U;
constexpr std::uint64_t max_pixels = 64'000'000;
/// Of 255; less is rounding, dithering, another driver.
constexpr int channel_differs_by = 5;

/// RAII.
class PngImage {
 public:
  PngImage() { image_.version = PNG_IMAGE_VERSION; }
  ~PngImage() { png_image_free(&image_); }
  PngImage(const PngImage&) = delete;
  PngImage& operator=(const PngImage&) = delete;
  png_image& get() { return image_; }

 private:
  png_image image_{};
};

[[noreturn]] void refuse(const std::filesystem::path& file, const std::string& problem) {
  throw Error({.file = file.filename().string(), .problem = problem, .accepted = "a PNG file"});
}

}  // namespace

Picture read_png(const std::filesystem::path& file) {
  const std::string bytes = read_regular_file(file, max_picture_bytes);
  PngImage holder;
  png_image& image = holder.get();
  if (png_image_begin_read_from_memory(&image, bytes.data(), bytes.size()) == 0) refuse(file, image.message);
  if (std::uint64_t{image.width} * image.height > max_pixels) refuse(file, "too many pixels");
  image.format = PNG_FORMAT_RGB;
  Picture picture;
  picture.width = static_cast<int>(image.width);
  picture.height = static_cast<int>(image.height);
  picture.pixels.resize(PNG_IMAGE_SIZE(image));
  const png_color black{0, 0, 0};
  if (png_image_finish_read(&image, &black, picture.pixels.data(), 0, nullptr) == 0) refuse(file, image.message);
  return picture;
}

PictureDifference difference_of(const Picture& one, const Picture& other) {
  std::size_t differing = 0;
  double sum = 0;
  const std::size_t pixels = one.pixels.size() / 3;
  for (std::size_t pixel = 0; pixel < pixels; ++pixel) {
    int largest = 0;
    for (std::size_t channel = 3 * pixel; channel < 3 * pixel + 3; ++channel) {
      const int by = std::abs(int{one.pixels[channel]} - int{other.pixels[channel]});
      largest = std::max(largest, by);
      sum += by;
    }
    differing += largest > channel_differs_by;
  }
  return {static_cast<double>(differing) / static_cast<double>(pixels),
          sum / (255.0 * 3 * static_cast<double>(pixels))};
}

}  // namespace mileage
