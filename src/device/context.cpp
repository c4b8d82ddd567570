#include "device/context.h"

#include <dlfcn.h>
#include <malloc.h>

#include <atomic>
#include <cstdlib>
#include <cstring>

#include <epoxy/egl.h>
#include <epoxy/gl.h>
#include <fmt/format.h>

#include "types/error.h"

namespace mileage::device {
namespace {

/// "off" disables the device.
constexpr const char* switch_name = "MILEAGE_DEVICE";
constexpr const char* software_names[] = {"llvmpipe", "softpipe", "swrast", "SWR"};

std::atomic<bool> one_is_open{false};

[[noreturn]] void refuse(const std::string& problem, const std::string& found = {}) {
  throw Error({.kind = FaultKind::variant, .problem = problem, .found = found});
}

/// Functions are resolved at the first call, which aborts if missing: check first.
void find_library(const char* name) {
  if (::dlopen(name, RTLD_NOW | RTLD_GLOBAL) == nullptr)
    refuse(fmt::format("no graphics device: {} is not installed", name));
}

std::string text_of(GLenum name) {
  const auto* text = reinterpret_cast<const char*>(::glGetString(name));
  return text == nullptr ? std::string() : text;
}

bool is_software(const std::string& name) {
  for (const char* software : software_names)
    if (name.find(software) != std::string::npos) return true;
  return false;
}

/// Keeps freed memory: a software device allocates per frame, and page faults would take a sixth of it.
void keep_memory_of_frames() {
#ifdef __GLIBC__
  constexpr int bytes = 1 << 30;
  ::mallopt(M_TRIM_THRESHOLD, bytes);
  ::mallopt(M_MMAP_THRESHOLD, bytes / 2);
#endif
}

const char* reason_of_loss(GLenum status) {
  switch (status) {
    case GL_GUILTY_CONTEXT_RESET:
      return "the graphics device was lost by what this variant asked of it";
    case GL_INNOCENT_CONTEXT_RESET:
      return "the graphics device was lost by something else that used it";
    default:
      return "the graphics device was lost";
  }
}

const char* name_of_error(GLenum error) {
  switch (error) {
    case GL_INVALID_ENUM:
      return "a value that it does not know";
    case GL_INVALID_VALUE:
      return "a number out of range";
    case GL_INVALID_OPERATION:
      return "a call that is not allowed now";
    case GL_OUT_OF_MEMORY:
      return "more memory than it has";
    default:
      return "something it could not do";
  }
}

}  // namespace

Context::Context(const ContextRequest& request) {
  try {
    open(request);
  } catch (...) {
    close();
    throw;
  }
}

Context::~Context() { close(); }

void Context::open(const ContextRequest& request) {
  if (one_is_open.exchange(true)) refuse("a context of the graphics device is open already in this process");
  is_counted_ = true;
  if (const char* set = std::getenv(switch_name); set != nullptr && std::strcmp(set, "off") == 0)
    refuse(fmt::format("the graphics device is switched off ({}=off)", switch_name));
  find_library(request.egl_library);
  if (!::epoxy_has_egl_extension(EGL_NO_DISPLAY, "EGL_EXT_platform_base") ||
      !::epoxy_has_egl_extension(EGL_NO_DISPLAY, "EGL_MESA_platform_surfaceless"))
    refuse("no graphics device: EGL here knows no contexts without a display");
  display_ = ::eglGetPlatformDisplayEXT(EGL_PLATFORM_SURFACELESS_MESA, EGL_DEFAULT_DISPLAY, nullptr);
  if (display_ == EGL_NO_DISPLAY || !::eglInitialize(display_, nullptr, nullptr)) {
    display_ = nullptr;
    refuse("no graphics device: EGL finds none");
  }
  ::eglBindAPI(EGL_OPENGL_API);
  const EGLint attributes[] = {EGL_CONTEXT_MAJOR_VERSION,
                               request.major,
                               EGL_CONTEXT_MINOR_VERSION,
                               request.minor,
                               EGL_CONTEXT_OPENGL_PROFILE_MASK,
                               EGL_CONTEXT_OPENGL_CORE_PROFILE_BIT,
                               EGL_NONE};
  context_ = ::eglCreateContext(display_, EGL_NO_CONFIG_KHR, EGL_NO_CONTEXT, attributes);
  if (context_ == EGL_NO_CONTEXT) {
    context_ = nullptr;
    refuse(fmt::format("the graphics device gives no OpenGL {}.{} core context: its driver is too old for it",
                       request.major, request.minor));
  }
  if (!::eglMakeCurrent(display_, EGL_NO_SURFACE, EGL_NO_SURFACE, context_))
    refuse("the graphics device refused a context without a surface");
  facts_ = {text_of(GL_RENDERER), text_of(GL_VERSION), false};
  facts_.software = is_software(facts_.name);
  if (facts_.software) keep_memory_of_frames();
  GLint64 bytes = 0;
  ::glGetInteger64v(GL_MAX_SHADER_STORAGE_BLOCK_SIZE, &bytes);
  max_storage_bytes_ = bytes;
}

void Context::close() {
  if (is_counted_) one_is_open = false;
  if (display_ == nullptr) return;
  ::eglMakeCurrent(display_, EGL_NO_SURFACE, EGL_NO_SURFACE, EGL_NO_CONTEXT);
  if (context_ != nullptr) ::eglDestroyContext(display_, context_);
  ::eglTerminate(display_);
}

void Context::check() const {
  const GLenum status = pretend_lost_ ? GL_UNKNOWN_CONTEXT_RESET : ::glGetGraphicsResetStatus();
  if (status != GL_NO_ERROR) refuse(reason_of_loss(status));
  if (const GLenum error = ::glGetError(); error != GL_NO_ERROR)
    refuse(fmt::format("the graphics device was asked for {}", name_of_error(error)),
           fmt::format("OpenGL error {:#x}", error));
}

}  // namespace mileage::device
