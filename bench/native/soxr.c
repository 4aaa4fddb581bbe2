/* How fast libsoxr changes the rate at its setting HQ (pass band 0.913, 120 dB): from to channels seconds runs.
   Prints the seconds that each run took. Built and run by native.mjs. */
#include <math.h>
#include <soxr.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

static double now(void) {
  struct timespec t;
  clock_gettime(CLOCK_MONOTONIC, &t);
  return t.tv_sec + t.tv_nsec * 1e-9;
}

int main(int count, char **words) {
  if (count != 6) return 2;
  double from = atof(words[1]), to = atof(words[2]);
  unsigned channels = atoi(words[3]);
  size_t frames = from * atoi(words[4]), room = to * atoi(words[4]) + 1000;
  float *in = malloc(frames * channels * sizeof *in), *out = malloc(room * channels * sizeof *out);
  for (size_t i = 0; i < frames * channels; i++) in[i] = 0.5 * sin(0.02 * i) + 0.1 * (rand() / (double)RAND_MAX - 0.5);
  soxr_quality_spec_t quality = soxr_quality_spec(SOXR_HQ, 0);
  soxr_io_spec_t io = soxr_io_spec(SOXR_FLOAT32_I, SOXR_FLOAT32_I);
  soxr_runtime_spec_t runtime = soxr_runtime_spec(1);
  for (int run = 0; run < atoi(words[5]); run++) {
    size_t taken, made;
    double started = now();
    if (soxr_oneshot(from, to, channels, in, frames, &taken, out, room, &made, &io, &quality, &runtime)) return 1;
    printf("%.6f\n", now() - started);
  }
  return 0;
}
