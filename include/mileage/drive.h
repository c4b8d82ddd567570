/* drive.h: lets `mileage drive` choose variant and count in a running program. One file, C99 or C++, POSIX sockets;
 * copy it. The program keeps its own loop and window, announces its variants, and asks what to show:
 *
 *   static const char* const variants[] = {"linked", "columns"};
 *   drive link;
 *   if (drive_open(&link, "127.0.0.1:7300", "night", "lanterns", variants, 2, 0) != 0) ...
 *   while (drive_next(&link) == 1) {                // waits
 *     show(link.variant, link.count, link.seed);    // set the population
 *     while (!drive_done(&link)) {                  // link.frames frames
 *       ...one frame...
 *       drive_frame(&link, milliseconds);
 *     }
 *     drive_alive(&link, lanterns);                 // counted
 *   }
 *   drive_close(&link);
 *
 * With `mileage drive --arrive 50`, start with link.count - link.arrive entities and add drive_arriving(&link) within
 * the next timed frame.
 *
 * Warm-up frames after a change are excluded by Mileage. drive_open() and drive_next() wait; other calls send at most
 * one line. One link per thread. With -std=c99 include this file first, since it needs POSIX.
 *
 * On request drive_frame() times a fixed workload of 15 us about once per millisecond (at most 2 % of the time), and on
 * Linux how long the thread waited for a core, for frames of 50 us or more. Call it outside of the timed part, from the
 * thread that draws.
 */
#ifndef MILEAGE_DRIVE_H
#define MILEAGE_DRIVE_H

#if defined(_WIN32)
#error "mileage/drive.h speaks over POSIX sockets"
#endif
#if !defined(_POSIX_C_SOURCE) && !defined(_GNU_SOURCE)
#define _POSIX_C_SOURCE 200809L
#endif

#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#include <arpa/inet.h>
#include <errno.h>
#include <fcntl.h>
#include <netinet/in.h>
#include <poll.h>
#include <sys/socket.h>
#include <time.h>
#include <unistd.h>

#ifdef __cplusplus
extern "C" {
#endif

enum { drive_max_name = 64, drive_max_line = 1024 };

typedef struct drive_list_ {
  char* text;
  size_t used;
  size_t room;
} drive_list_;

typedef struct drive {
  /* What to show, set by drive_next(). */
  char variant[drive_max_name + 1];
  int64_t count;
  uint64_t seed;
  long frames;
  int64_t arrive; /* part of the count that arrives later; usually 0 */
  /* Private. */
  int socket; /* -1: none */
  long long number;
  int64_t alive;
  long shown;
  long arrived_at;    /* frame of the arrival, from 1; 0 before */
  drive_list_ times;  /* "1.25,1.5" */
  drive_list_ probes; /* "[2,15.1],[31,15.2]": frame from 1, us */
  drive_list_ waits;  /* the same for waiting */
  int waits_file;     /* plus one; 0: not open */
  uint64_t waited_ns; /* before this frame, plus one; 0: unknown */
  uint64_t idle_ns;   /* wall time - CPU time of the thread, then */
  int is_probed;
  long frames_to_probe;
  double expected_ns; /* frame time, to space probes */
  double shortest_probe_ns;
} drive;

static inline int drive_put_(drive* link, const char* text, size_t size) {
  while (size > 0) {
    const ssize_t sent = send(link->socket, text, size, MSG_NOSIGNAL);
    if (sent < 0 && errno == EINTR) continue;
    if (sent <= 0) return -1;
    text += sent;
    size -= (size_t)sent;
  }
  return 0;
}

/* Without line feed, at most drive_max_line bytes. Byte by byte, so that nothing is read beyond. */
static inline int drive_get_(drive* link, char* line) {
  size_t used = 0;
  while (used + 1 < drive_max_line) {
    const ssize_t got = recv(link->socket, line + used, 1, 0);
    if (got < 0 && errno == EINTR) continue;
    if (got != 1) return -1;
    if (line[used] == '\n') {
      line[used] = '\0';
      return 0;
    }
    ++used;
  }
  return -1;
}

/* An interrupted connect() continues; waits for it. */
static inline int drive_connect_(drive* link, const struct sockaddr_in* place) {
  struct pollfd made;
  int error = 0;
  socklen_t size = sizeof error;
  if (connect(link->socket, (const struct sockaddr*)place, sizeof *place) == 0) return 0;
  if (errno != EINTR) return -1;
  made.fd = link->socket;
  made.events = POLLOUT;
  while (poll(&made, 1, -1) < 0)
    if (errno != EINTR) return -1;
  return getsockopt(link->socket, SOL_SOCKET, SO_ERROR, &error, &size) == 0 && error == 0 ? 0 : -1;
}

/* May be called twice. */
static inline void drive_close(drive* link) {
  if (link->socket >= 0) close(link->socket);
  if (link->waits_file > 0) close(link->waits_file - 1);
  free(link->times.text);
  free(link->probes.text);
  free(link->waits.text);
  link->socket = -1;
  link->waits_file = 0;
  memset(&link->times, 0, sizeof link->times);
  memset(&link->probes, 0, sizeof link->probes);
  memset(&link->waits, 0, sizeof link->waits);
}

/* Connects to `mileage drive` at an IPv4 address and port and announces the variants. Names: letters, digits, dashes
 * and blanks, at most 64 bytes. `most`: largest count the program can show, or 0. Returns 0, or -1 on failure. */
static inline int drive_open(drive* link, const char* address, const char* scenario, const char* entities,
                             const char* const* variants, int variant_count, int64_t max) {
  struct sockaddr_in place;
  char host[64];
  char line[64 * (drive_max_name + 4)];
  size_t used;
  int i;
  const char* colon = strrchr(address, ':');
  memset(link, 0, sizeof *link);
  memset(&place, 0, sizeof place);
  link->socket = -1;
  if (colon == NULL || (size_t)(colon - address) >= sizeof host || variant_count < 1 || variant_count > 60) return -1;
  if (strlen(scenario) > drive_max_name || strlen(entities) > drive_max_name) return -1;
  memcpy(host, address, (size_t)(colon - address));
  host[colon - address] = '\0';
  place.sin_family = AF_INET;
  place.sin_port = htons((uint16_t)atoi(colon + 1));
  if (inet_pton(AF_INET, host, &place.sin_addr) != 1) return -1;
  used = (size_t)snprintf(line, sizeof line, "{\"hello\":1,\"scenario\":\"%s\",\"entities\":\"%s\",\"variants\":[",
                          scenario, entities);
  for (i = 0; i < variant_count; ++i) {
    if (strlen(variants[i]) > drive_max_name) return -1;
    used += (size_t)snprintf(line + used, sizeof line - used, "%s\"%s\"", i == 0 ? "" : ",", variants[i]);
  }
  used += (size_t)snprintf(line + used, sizeof line - used, "]");
  if (max > 0) used += (size_t)snprintf(line + used, sizeof line - used, ",\"most\":%lld", (long long)max);
  used += (size_t)snprintf(line + used, sizeof line - used, "}\n");
  link->socket = socket(AF_INET, SOCK_STREAM, 0);
  if (link->socket < 0) return -1;
  if (drive_connect_(link, &place) != 0 || drive_put_(link, line, used) != 0) {
    drive_close(link);
    return -1;
  }
  return 0;
}

/* Value of "name" in a line of JSON, or NULL. */
static inline const char* drive_find_(const char* line, const char* name) {
  char quoted[32];
  const char* at;
  snprintf(quoted, sizeof quoted, "\"%s\":", name);
  at = strstr(line, quoted);
  return at == NULL ? NULL : at + strlen(quoted);
}

/* If not empty. */
static inline int drive_put_pairs_(drive* link, const char* name, const drive_list_* pairs) {
  if (pairs->used == 0) return 0;
  if (drive_put_(link, name, strlen(name)) != 0 || drive_put_(link, pairs->text, pairs->used) != 0) return -1;
  return drive_put_(link, "]", 1);
}

/* Time that this thread waited for a core, plus one (second field of schedstat); 0 if unknown. */
static inline uint64_t drive_waited_(drive* link) {
#if defined(__linux__)
  char text[96];
  char* end;
  ssize_t size;
  if (link->waits_file == 0) link->waits_file = open("/proc/thread-self/schedstat", O_RDONLY | O_CLOEXEC) + 1;
  size = link->waits_file == 0 ? -1 : pread(link->waits_file - 1, text, sizeof text - 1, 0);
  if (size <= 0) return 0;
  text[size] = '\0';
  (void)strtoull(text, &end, 10);
  return (uint64_t)strtoull(end, NULL, 10) + 1;
#else
  (void)link;
  return 0;
#endif
}

static inline uint64_t drive_now_ns_(void) {
  struct timespec now;
  clock_gettime(CLOCK_MONOTONIC, &now);
  return (uint64_t)now.tv_sec * 1000000000u + (uint64_t)now.tv_nsec;
}

/* Wall time - CPU time of this thread. */
static inline uint64_t drive_idle_ns_(void) {
  struct timespec busy;
  const uint64_t now_ns = drive_now_ns_();
  clock_gettime(CLOCK_THREAD_CPUTIME_ID, &busy);
  return now_ns - ((uint64_t)busy.tv_sec * 1000000000u + (uint64_t)busy.tv_nsec);
}

/* Sends the last frames and waits. Returns 1: show the next cell; 0: finished; -1: link broken. */
static inline int drive_next(drive* link) {
  char line[drive_max_line];
  const char* number;
  const char* variant;
  const char* count;
  const char* seed;
  const char* frames;
  const char* arrive;
  size_t size;
  if (link->socket < 0) return -1;
  if (link->number > 0) {
    const int head = snprintf(line, sizeof line, "{\"done\":%lld,\"alive\":%lld,\"frames_ms\":[", link->number,
                              (long long)link->alive);
    if (drive_put_(link, line, (size_t)head) != 0 || drive_put_(link, link->times.text, link->times.used) != 0 ||
        drive_put_(link, "]", 1) != 0)
      return -1;
    if (drive_put_pairs_(link, ",\"yardstick_us\":[", &link->probes) != 0 ||
        drive_put_pairs_(link, ",\"waited_us\":[", &link->waits) != 0)
      return -1;
    if (link->arrived_at > 0) {
      const int came = snprintf(line, sizeof line, ",\"arrived_at\":%ld", link->arrived_at);
      if (drive_put_(link, line, (size_t)came) != 0) return -1;
    }
    if (drive_put_(link, "}\n", 2) != 0) return -1;
  }
  if (drive_get_(link, line) != 0) return -1;
  if (drive_find_(line, "end") != NULL) return 0;
  number = drive_find_(line, "next");
  variant = drive_find_(line, "variant");
  count = drive_find_(line, "count");
  seed = drive_find_(line, "seed");
  frames = drive_find_(line, "frames");
  arrive = drive_find_(line, "arrive");
  if (number == NULL || variant == NULL || count == NULL || seed == NULL || frames == NULL || *variant != '"')
    return -1;
  size = strcspn(variant + 1, "\"");
  if (size > drive_max_name) return -1;
  memcpy(link->variant, variant + 1, size);
  link->variant[size] = '\0';
  link->number = atoll(number);
  link->count = atoll(count);
  link->seed = strtoull(seed, NULL, 10);
  link->frames = atol(frames);
  link->arrive = arrive == NULL ? 0 : atoll(arrive);
  link->shown = 0;
  link->arrived_at = 0;
  link->times.used = 0;
  link->probes.used = 0;
  link->waits.used = 0;
  link->is_probed = drive_find_(line, "yardstick") != NULL;
  link->waited_ns = link->is_probed ? drive_waited_(link) : 0;
  link->idle_ns = drive_idle_ns_();
  link->frames_to_probe = 1;
  link->expected_ns = 0;
  link->alive = link->count;
  return 1;
}

/* Appends `ns` in a unit, printed as integers to be independent of the locale. Returns 0, or -1 without memory. */
static inline int drive_append_(drive_list_* list, const char* before, uint64_t ns, uint32_t unit, const char* after) {
  if (list->room - list->used < 64) {
    char* more = (char*)realloc(list->text, 2 * list->room + 4096);
    if (more == NULL) return -1;
    list->text = more;
    list->room = 2 * list->room + 4096;
  }
  list->used +=
      (size_t)snprintf(list->text + list->used, 64, "%s%s%llu.%0*llu%s", list->used == 0 ? "" : ",", before,
                       (unsigned long long)(ns / unit), unit == 1000 ? 3 : 6, (unsigned long long)(ns % unit), after);
  return 0;
}

/* About 15 us when optimized: independent arithmetic chains in registers. */
static inline void drive_work_(void) {
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
static inline int drive_probe_(drive* link, double frame_ns) {
  const uint64_t begun_ns = drive_now_ns_();
  char frame[32];
  double interval_ns, took_ns;
  int times, i;
  drive_work_();
  took_ns = (double)(drive_now_ns_() - begun_ns);
  if (link->shortest_probe_ns <= 0 || took_ns < link->shortest_probe_ns) link->shortest_probe_ns = took_ns;
  interval_ns = 55 * link->shortest_probe_ns;
  if (interval_ns < 1e6) interval_ns = 1e6;
  if (frame_ns > 3 * link->expected_ns || 3 * frame_ns < link->expected_ns) link->expected_ns = frame_ns + 1;
  link->frames_to_probe = 1 + (long)(interval_ns / link->expected_ns);
  if (link->frames_to_probe > 400) link->frames_to_probe = 400; /* so that short runs have some */
  times = link->expected_ns < 16 * interval_ns ? (int)(link->expected_ns / interval_ns) : 16;
  for (i = 1; i < times; ++i) drive_work_();
  snprintf(frame, sizeof frame, "[%ld,", link->shown);
  return drive_append_(&link->probes, frame, (drive_now_ns_() - begun_ns) / (uint64_t)(times > 1 ? times : 1), 1000,
                       "]");
}

/* At most the time without CPU, since some kernels count a twentieth twice, and at most the frame. */
static inline int drive_note_waiting_(drive* link, uint64_t frame_ns) {
  const uint64_t now_ns = link->waited_ns > 0 ? drive_waited_(link) : 0;
  const uint64_t idle_ns = now_ns > 0 ? drive_idle_ns_() - link->idle_ns : 0;
  uint64_t waited_ns = now_ns > link->waited_ns ? now_ns - link->waited_ns : 0;
  char frame[32];
  if (waited_ns > idle_ns) waited_ns = idle_ns;
  if (waited_ns == 0) return 0;
  snprintf(frame, sizeof frame, "[%ld,", link->shown);
  return drive_append_(&link->waits, frame, waited_ns < frame_ns ? waited_ns : frame_ns, 1000, "]");
}

/* A frame was shown and took `ms`. Without memory the link breaks (drive_done(), drive_next()). */
static inline void drive_frame(drive* link, double milliseconds) {
  const uint64_t ns = milliseconds > 0 && milliseconds < 1e9 ? (uint64_t)(milliseconds * 1e6 + 0.5) : 0;
  int failed;
  if (link->socket < 0) return;
  ++link->shown;
  failed = drive_append_(&link->times, "", ns, 1000000, "");
  failed |= drive_note_waiting_(link, ns);
  if (link->is_probed && --link->frames_to_probe == 0) failed |= drive_probe_(link, (double)ns);
  link->waited_ns = link->is_probed && ns >= 50000 ? drive_waited_(link) : 0;
  if (link->waited_ns > 0) link->idle_ns = drive_idle_ns_();
  if (failed) drive_close(link); /* the run is lost */
}

/* Entities to add in the next frame: link.arrive once, after a third of the frames; else 0. */
static inline int64_t drive_arriving(drive* link) {
  if (link->arrive == 0 || link->arrived_at > 0 || link->shown < link->frames / 3) return 0;
  link->arrived_at = link->shown + 1;
  return link->arrive;
}

/* All frames were shown, or the link is broken. */
static inline int drive_done(const drive* link) { return link->socket < 0 || link->shown >= link->frames; }

/* Number of entities alive, counted. */
static inline void drive_alive(drive* link, int64_t alive) { link->alive = alive; }

#ifdef __cplusplus
} /* extern "C" */
#endif

#endif /* MILEAGE_DRIVE_H */
