/* A C99 program that records its frames: lantern_log PATH FRAMES. Ends with 2 when the table could not be made, 3 when
 * not all of it could be written. A path of "-" records nothing. */
#include "mileage/framelog.h"

int main(int argc, char** argv) {
  framelog log;
  const char* path = argc > 1 && strcmp(argv[1], "-") != 0 ? argv[1] : NULL;
  int carry, updates, glow;
  if (framelog_open(&log, path, argc > 2 ? atol(argv[2]) : 10) != 0) return 2;
  carry = framelog_phase(&log, "carry");
  updates = framelog_counter(&log, "updates, \"all\"");
  glow = framelog_outcome(&log, "mean glow");
  if (carry != 0 || updates != 0 || glow != 0) return 4;
  while (!framelog_done(&log)) {
    framelog_begin(&log);
    if (path != NULL && framelog_phase(&log, "too late") != -1) return 5;
    framelog_phase_begin(&log, carry);
    framelog_phase_end(&log, carry);
    framelog_phase_begin(&log, carry);
    framelog_phase_end(&log, carry);
    framelog_add(&log, updates, 1.5);
    framelog_add(&log, updates, 1.5);
    framelog_alive(&log, 40 + log.frames);
    framelog_end(&log);
  }
  framelog_state(&log, glow, -0.25);
  return framelog_close(&log) == 0 && framelog_close(&log) == 0 ? 0 : 3;
}
