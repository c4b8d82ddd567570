/* framelog.h: writes a frame table, for `mileage import` and for programs that Mileage starts. One file, C99 or C++,
 * standard library only; copy it next to the frame loop.
 *
 *   framelog log;
 *   int carry;
 *   framelog_open(&log, path, 0);                   // NULL: records nothing
 *   carry = framelog_phase(&log, "carry");
 *   while (running) {
 *     framelog_begin(&log);
 *     framelog_phase_begin(&log, carry);
 *     ...
 *     framelog_phase_end(&log, carry);
 *     framelog_alive(&log, lanterns);
 *     framelog_end(&log);
 *   }
 *   framelog_close(&log);
 *
 * A frame takes two clock readings, a phase two more. Buffers (twice 64 KiB) are allocated at the first frame and
 * written between frames when full or a second old. A crash loses their content; after a write error nothing more is
 * written. One log per thread. With -std=c99 include this file first, since it needs POSIX clocks.
 *
 * If MILEAGE_YARDSTICK is set (by Mileage), a fixed workload of 15 us is timed between frames, about once per
 * millisecond, as column yardstick_us. On Linux, waited_us is the time that the thread waited for a core in frames of
 * 50 us or more.
 */
#ifndef MILEAGE_FRAMELOG_H
#define MILEAGE_FRAMELOG_H

#if !defined(_WIN32) && !defined(_POSIX_C_SOURCE) && !defined(_GNU_SOURCE)
#define _POSIX_C_SOURCE 200809L
#endif

#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#if defined(_WIN32)
#include <windows.h>
#else
#if defined(__linux__)
#include <fcntl.h>
#include <unistd.h>
#endif
#include <time.h>
#ifndef CLOCK_MONOTONIC
#error "no monotonic clock: include mileage/framelog.h before any other header, or define _POSIX_C_SOURCE 200809L"
#endif
#endif

#ifdef __cplusplus
extern "C" {
#endif

enum {
  framelog_max_columns = 16, /* phases, counters and outcomes each */
  framelog_max_name = 64,    /* bytes, with terminator */
  framelog_max_cell = 32,    /* bytes, with comma */
  framelog_buffer = 64 * 1024 /* bytes: rows, text */
};

#if defined(__GNUC__)
#define FRAMELOG_APART_ __attribute__((noinline, unused))
#define FRAMELOG_ONE_BY_ONE_ __asm__ volatile("") /* short loops: no vectors */
#else
#define FRAMELOG_APART_ inline
#define FRAMELOG_ONE_BY_ONE_
#endif

typedef union framelog_figure {
  uint64_t ns;
  int64_t alive;
  double amount;
} framelog_figure;

/* Private fields; those used in every frame are adjacent. */
typedef struct framelog {
  FILE* file;            /* NULL: not recording */
  framelog_figure* row;  /* next row: time, alive, phases, counters; NULL before the first frame */
  framelog_figure* full; /* last position for a row */
  uint32_t added;        /* phases and counters */
  uint32_t counters_at;  /* in `sums` */
  uint64_t begun_ns;
  uint64_t written_ns; /* last write */
  int64_t alive;
  long frames;
  framelog_figure sums[2 * framelog_max_columns + 2]; /* of the current frame; yardstick and waiting last */
  uint32_t is_probed;
  uint32_t frames_to_probe;

  long frames_wanted; /* 0: unlimited */
  int failed;
  int columns[3];     /* phases, counters, outcomes */
  uint64_t opened_ns;
  uint64_t first_ns;     /* start of the first frame */
  framelog_figure* rows; /* not written yet */
  char* text;
  int64_t alive_in_text; /* last written; INT64_MIN before the first */
  uint64_t expected_ns;  /* frame time, to space probes */
  uint64_t shortest_probe_ns;
  uint64_t waited_ns; /* before this frame, plus one; 0: unknown */
  uint64_t busy_ns;   /* CPU time of the thread then */
  int waits;          /* descriptor; -1: none */
  uint64_t phase_begun_ns[framelog_max_columns];
  double outcomes[framelog_max_columns];
  char names[3][framelog_max_columns][framelog_max_name];
} framelog;

enum { framelog_phases_ = 0, framelog_counters_ = 1, framelog_outcomes_ = 2 };

static inline uint64_t framelog_now_ns(void) {
#if defined(_WIN32)
  LARGE_INTEGER now, rate;
  QueryPerformanceCounter(&now);
  QueryPerformanceFrequency(&rate);
  return (uint64_t)((double)now.QuadPart * 1e9 / (double)rate.QuadPart);
#else
  struct timespec now;
  clock_gettime(CLOCK_MONOTONIC, &now);
  return (uint64_t)now.tv_sec * 1000000000u + (uint64_t)now.tv_nsec;
#endif
}

/* Creates or overwrites the table at `path`; NULL or "" records nothing. With `frames` > 0, framelog_done() is true
 * after that number. Returns 0, or -1 on failure, after which all calls do nothing. Time until the first frame is
 * set-up time. */
static inline int framelog_open(framelog* log, const char* path, long frames) {
  memset(log, 0, sizeof *log);
  log->frames_wanted = frames;
  log->is_probed = getenv("MILEAGE_YARDSTICK") != NULL;
  log->frames_to_probe = 1;
  log->waits = -1;
  log->opened_ns = framelog_now_ns();
  if (path == NULL || path[0] == '\0') return 0;
  log->file = fopen(path, "wb");
  if (log->file == NULL) return -1;
  setvbuf(log->file, NULL, _IONBF, 0);
  return 0;
}

static inline int framelog_column_(framelog* log, int kind, const char* name) {
  const int place = log->columns[kind];
  if (log->row != NULL || place == framelog_max_columns || strlen(name) >= framelog_max_name) return -1;
  strcpy(log->names[kind][place], name);
  log->columns[kind] = place + 1;
  return place;
}

/* Declares a phase of the frame, a counter per frame, or a figure of the resulting world (compared between variants).
 * Before the first frame, at most 16 of each, names below 64 bytes. Returns its number, or -1, which later calls
 * ignore. */
static inline int framelog_phase(framelog* log, const char* name) {
  return framelog_column_(log, framelog_phases_, name);
}
static inline int framelog_counter(framelog* log, const char* name) {
  return framelog_column_(log, framelog_counters_, name);
}
static inline int framelog_outcome(framelog* log, const char* name) {
  return framelog_column_(log, framelog_outcomes_, name);
}

static inline char* framelog_pair_(char* to, uint32_t value) {
  static const char digits[201] =
      "0001020304050607080910111213141516171819202122232425262728293031323334353637383940414243444546474849505152535455"
      "56575859"
      "60616263646566676869707172737475767778798081828384858687888990919293949596979899";
  memcpy(to, digits + 2 * value, 2);
  return to + 2;
}

static inline char* framelog_six_(char* to, uint32_t value) {
  const uint32_t high = value / 10000u;
  const uint32_t middle = value / 100u;
  to = framelog_pair_(to, high);
  to = framelog_pair_(to, middle - 100u * high);
  return framelog_pair_(to, value - 100u * middle);
}

static inline char* framelog_whole_(char* to, uint64_t value) {
  uint32_t low;
  if (value < 10) {
    *to = (char)('0' + value);
    return to + 1;
  }
  if (value < 100) return framelog_pair_(to, (uint32_t)value);
  if (value < 10000) {
    low = (uint32_t)value;
    to = framelog_whole_(to, low / 100u);
    return framelog_pair_(to, low % 100u);
  }
  to = framelog_whole_(to, value < 1000000 ? (uint32_t)value / 10000u : value / 1000000u);
  if (value >= 1000000) return framelog_six_(to, (uint32_t)(value % 1000000u));
  low = (uint32_t)value % 10000u;
  to = framelog_pair_(to, low / 100u);
  return framelog_pair_(to, low % 100u);
}

static inline char* framelog_ms_(char* to, uint64_t ns) {
  if (ns < 1000000u) {
    *to = '0';
    if (ns == 0) return to + 1;
    to[1] = '.';
    return framelog_six_(to + 2, (uint32_t)ns);
  }
  to = framelog_whole_(to, ns / 1000000u);
  *to = '.';
  return framelog_six_(to + 1, (uint32_t)(ns % 1000000u));
}

static inline char* framelog_number_(char* to, double value) {
  if (value >= 0 && value < 1e15 && (double)(int64_t)value == value)
    return framelog_whole_(to, (uint64_t)(int64_t)value);
  {
    const int size = snprintf(to, 32, "%.12g", value);
    int i;
    for (i = 0; i < size; ++i)
      if (to[i] == ',') to[i] = '.'; /* locale */
    return to + size;
  }
}

static inline void framelog_put_text_(framelog* log, const char* end) {
  const size_t size = (size_t)(end - log->text);
  if (!log->failed && fwrite(log->text, 1, size, log->file) != size) log->failed = 1;
}

static inline char* framelog_header_(const framelog* log, char* to) {
  static const char* const kinds[3] = {"phase:", "counter:", "outcome:"};
  int kind, i;
  const char* c;
  to += sprintf(to, log->is_probed ? "frame_ms,alive,setup_ms,yardstick_us,waited_us" : "frame_ms,alive,setup_ms");
  for (kind = 0; kind < 3; ++kind)
    for (i = 0; i < log->columns[kind]; ++i) {
      to += sprintf(to, ",\"%s", kinds[kind]);
      for (c = log->names[kind][i]; *c != '\0'; ++c) {
        if (*c == '"') *to++ = '"';
        *to++ = *c;
      }
      *to++ = '"';
    }
  *to++ = '\n';
  return to;
}

/* Allocates and touches the buffers and writes the header, outside of frames. */
static FRAMELOG_APART_ void framelog_start_(framelog* log) {
  char* const both = (char*)malloc(2 * framelog_buffer);
  if (both == NULL) {
    log->failed = 1;
    return;
  }
  memset(both, 0, 2 * framelog_buffer);
  log->counters_at = (uint32_t)log->columns[framelog_phases_];
  log->added = log->counters_at + (uint32_t)log->columns[framelog_counters_] + 2 * log->is_probed;
  log->rows = (framelog_figure*)(void*)both;
  log->row = log->rows;
  log->full = log->rows + framelog_buffer / sizeof *log->rows - (1 + log->added);
  log->text = both + framelog_buffer;
  log->alive_in_text = INT64_MIN;
  framelog_put_text_(log, framelog_header_(log, log->text));
  log->first_ns = framelog_now_ns();
  log->written_ns = log->first_ns;
}

/* `alive` is blank if unchanged; set-up time is in the first row only. */
static inline char* framelog_row_(framelog* log, const framelog_figure* row, char* to) {
  const int phases = log->columns[framelog_phases_], counters = log->columns[framelog_counters_];
  int i;
  to = framelog_ms_(to, row[0].ns);
  *to++ = ',';
  if (row[1].alive != log->alive_in_text) to = framelog_whole_(to, (uint64_t)row[1].alive);
  *to++ = ',';
  if (log->alive_in_text == INT64_MIN) to = framelog_ms_(to, log->first_ns - log->opened_ns);
  log->alive_in_text = row[1].alive;
  if (log->is_probed) {
    for (i = 0; i < 2; ++i) {
      const uint64_t ns = row[log->added + (uint32_t)i].ns;
      *to++ = ',';
      if (ns > 0) to = framelog_number_(to, (double)ns / 1000);
    }
  }
  for (row += 2, i = 0; i < phases; ++i) {
    *to++ = ',';
    to = framelog_ms_(to, row[i].ns);
  }
  for (row += phases, i = 0; i < counters; ++i) {
    *to++ = ',';
    to = framelog_number_(to, row[i].amount);
  }
  return to;
}

/* Outcomes are in the last row. */
static FRAMELOG_APART_ void framelog_write_(framelog* log, int is_last) {
  const int outcomes = log->columns[framelog_outcomes_];
  const size_t figures = 2 + log->added;
  const size_t row_size = (figures + 1 + (size_t)outcomes) * framelog_max_cell;
  const framelog_figure* row;
  char* to = log->text;
  int i;
  for (row = log->rows; row != log->row; row += figures) {
    if (to + row_size > log->text + framelog_buffer) {
      framelog_put_text_(log, to);
      to = log->text;
    }
    to = framelog_row_(log, row, to);
    for (i = 0; i < outcomes; ++i) {
      *to++ = ',';
      if (is_last && row + figures == log->row) to = framelog_number_(to, log->outcomes[i]);
    }
    *to++ = '\n';
  }
  framelog_put_text_(log, to);
  log->row = log->rows;
}

/* About 15 us when optimized: independent arithmetic chains in registers, bound by throughput. */
static FRAMELOG_APART_ void framelog_work_(void) {
  static volatile uint32_t seen;
  uint32_t words[8] = {1, 2, 3, 4, 5, 6, 7, 8};
  float floats[8] = {1, 2, 3, 4, 5, 6, 7, 8};
  uint32_t sum = 0;
  int round, i;
  for (round = 0; round < 3000; ++round)
    for (i = 0; i < 8; ++i) {
      words[i] ^= words[i] >> 16;
      words[i] += words[i] << 3;
      floats[i] = floats[i] * 0.999F + 0.001F;
    }
  for (i = 0; i < 8; ++i) sum += words[i] + (uint32_t)floats[i];
  seen = sum;
  (void)seen;
}

/* Once per millisecond of a long frame. The interval in frames follows only large changes in frame time, so that slow
 * moments are not over-represented. */
static FRAMELOG_APART_ uint64_t framelog_probe_(framelog* log, uint64_t frame_ns) {
  const uint64_t begun_ns = framelog_now_ns();
  uint64_t interval_ns, mean_ns;
  int times, i;
  framelog_work_();
  mean_ns = framelog_now_ns() - begun_ns;
  if (log->shortest_probe_ns == 0 || mean_ns < log->shortest_probe_ns) log->shortest_probe_ns = mean_ns;
  interval_ns = 55 * log->shortest_probe_ns > 1000000u ? 55 * log->shortest_probe_ns : 1000000u;
  if (frame_ns > 3 * log->expected_ns || 3 * frame_ns < log->expected_ns) log->expected_ns = frame_ns + 1;
  log->frames_to_probe = (uint32_t)((interval_ns + log->expected_ns - 1) / log->expected_ns);
  if (log->frames_to_probe > 400) log->frames_to_probe = 400; /* so that short runs have some */
  times = log->expected_ns / interval_ns < 16 ? (int)(log->expected_ns / interval_ns) : 16;
  if (times < 2) return mean_ns + 1;
  for (i = 1; i < times; ++i) framelog_work_();
  return (framelog_now_ns() - begun_ns) / (uint64_t)times + 1;
}

/* Time that this thread waited for a core, plus one (second field of schedstat); 0 if unknown. */
static FRAMELOG_APART_ uint64_t framelog_waited_(framelog* log) {
#if defined(__linux__)
  char text[96];
  char* end;
  ssize_t size;
  if (log->waits < 0) log->waits = open("/proc/thread-self/schedstat", O_RDONLY | O_CLOEXEC);
  size = log->waits < 0 ? -1 : pread(log->waits, text, sizeof text - 1, 0);
  if (size <= 0) return 0;
  text[size] = '\0';
  (void)strtoull(text, &end, 10);
  return (uint64_t)strtoull(end, NULL, 10) + 1;
#else
  (void)log;
  return 0;
#endif
}

static FRAMELOG_APART_ uint64_t framelog_busy_(void) {
#if defined(__linux__)
  struct timespec busy;
  clock_gettime(CLOCK_THREAD_CPUTIME_ID, &busy);
  return (uint64_t)busy.tv_sec * 1000000000u + (uint64_t)busy.tv_nsec;
#else
  return 0;
#endif
}

/* Since the frame began, at most its time minus CPU time: some kernels count a twentieth twice. */
static FRAMELOG_APART_ uint64_t framelog_waited_in_(framelog* log, uint64_t frame_ns) {
  const uint64_t busy_ns = framelog_busy_() - log->busy_ns;
  const uint64_t now_ns = framelog_waited_(log);
  const uint64_t waited_ns = now_ns > log->waited_ns ? now_ns - log->waited_ns : 0;
  const uint64_t max_ns = frame_ns > busy_ns ? frame_ns - busy_ns : 0;
  return waited_ns < max_ns ? waited_ns : max_ns;
}

/* Start and end of a frame. */
static inline void framelog_begin(framelog* log) {
  if (log->file == NULL) return;
  if (log->row == NULL) framelog_start_(log);
  log->waited_ns = log->expected_ns >= 50000u ? framelog_waited_(log) : 0;
  if (log->waited_ns > 0) log->busy_ns = framelog_busy_();
  log->begun_ns = framelog_now_ns();
}
static inline void framelog_end(framelog* log) {
  uint64_t now_ns;
  uint32_t i;
  log->frames += 1;
  if (log->row == NULL) return;
  now_ns = framelog_now_ns();
  if (log->row >= log->full || now_ns - log->written_ns > 1000000000u) {
    framelog_write_(log, 0);
    log->written_ns = now_ns;
  }
  if (log->waited_ns > 0) log->sums[log->added - 1].ns = framelog_waited_in_(log, now_ns - log->begun_ns);
  if (log->is_probed && --log->frames_to_probe == 0)
    log->sums[log->added - 2].ns = framelog_probe_(log, now_ns - log->begun_ns);
  log->row[0].ns = now_ns - log->begun_ns;
  log->row[1].alive = log->alive;
  for (i = 0; i < log->added; ++i) {
    log->row[2 + i] = log->sums[i];
    log->sums[i].ns = 0;
    FRAMELOG_ONE_BY_ONE_;
  }
  log->row += 2 + log->added;
}

/* Start and end of a phase; repeated phases add up. */
static inline void framelog_phase_begin(framelog* log, int phase) {
  if (log->file != NULL && phase >= 0) log->phase_begun_ns[phase] = framelog_now_ns();
}
static inline void framelog_phase_end(framelog* log, int phase) {
  if (log->row != NULL && phase >= 0) log->sums[phase].ns += framelog_now_ns() - log->phase_begun_ns[phase];
}

/* Adds to a counter of the current frame. */
static inline void framelog_add(framelog* log, int counter, double amount) {
  if (log->row != NULL && counter >= 0) log->sums[log->counters_at + (uint32_t)counter].amount += amount;
}

/* Number of entities alive, counted; valid until the next call. */
static inline void framelog_alive(framelog* log, int64_t alive) { log->alive = alive; }

/* Sets a figure of the world; the last value counts. */
static inline void framelog_state(framelog* log, int outcome, double value) {
  if (outcome >= 0) log->outcomes[outcome] = value;
}

/* Whether the frames given to framelog_open() are finished, also without a table. */
static inline int framelog_done(const framelog* log) {
  return log->frames_wanted > 0 && log->frames >= log->frames_wanted;
}

/* Returns 0, or -1 if not everything was written. May be called twice. */
static inline int framelog_close(framelog* log) {
  int failed;
  if (log->file == NULL) return 0;
  if (log->row != NULL) framelog_write_(log, 1);
  failed = log->failed;
  if (fclose(log->file) != 0) failed = 1;
#if defined(__linux__)
  if (log->waits >= 0) close(log->waits);
#endif
  free(log->rows);
  log->file = NULL;
  log->rows = NULL;
  log->row = NULL;
  return failed ? -1 : 0;
}

#ifdef __cplusplus
} /* extern "C" */
#endif

#if defined(__cplusplus) && (__cplusplus >= 201703L || (defined(_MSVC_LANG) && _MSVC_LANG >= 201703L))
namespace mileage {

/* C++17: RAII for the log, frames and phases. */
class FrameLog {
 public:
  class Frame {
   public:
    explicit Frame(framelog& log) : log_(&log) { framelog_begin(log_); }
    ~Frame() { framelog_end(log_); }
    Frame(const Frame&) = delete;
    Frame& operator=(const Frame&) = delete;

   private:
    framelog* log_;
  };
  class Phase {
   public:
    Phase(framelog& log, int phase) : log_(&log), phase_(phase) { framelog_phase_begin(log_, phase_); }
    ~Phase() { framelog_phase_end(log_, phase_); }
    Phase(const Phase&) = delete;
    Phase& operator=(const Phase&) = delete;

   private:
    framelog* log_;
    int phase_;
  };

  explicit FrameLog(const char* path, long frames = 0) : is_open_(framelog_open(&log_, path, frames) == 0) {}
  ~FrameLog() { framelog_close(&log_); }
  FrameLog(const FrameLog&) = delete;
  FrameLog& operator=(const FrameLog&) = delete;

  bool is_open() const { return is_open_; }
  int phase(const char* name) { return framelog_phase(&log_, name); }
  int counter(const char* name) { return framelog_counter(&log_, name); }
  int outcome(const char* name) { return framelog_outcome(&log_, name); }
  Frame frame() { return Frame(log_); }
  Phase in_phase(int phase) { return Phase(log_, phase); }
  void add(int counter, double amount) { framelog_add(&log_, counter, amount); }
  void alive(int64_t count) { framelog_alive(&log_, count); }
  void state(int outcome, double value) { framelog_state(&log_, outcome, value); }
  bool done() const { return framelog_done(&log_) != 0; }
  bool close() { return framelog_close(&log_) == 0; }

 private:
  framelog log_;
  bool is_open_;
};

} /* namespace mileage */
#endif

#endif /* MILEAGE_FRAMELOG_H */
