/* Plays the bell twice and then the announcement, to a converter that stands in for the board's own: a file. */
#include <stdint.h>
#include <stdio.h>

static void write_sample(int16_t sample) {
  putchar(sample & 255);
  putchar((sample >> 8) & 255);
}
#define SOUND_WRITE(sample) write_sample(sample)
#include "sound_player.h"

int main(void) {
  const struct sound_entry entries[] = {
    { &sounds[SOUND_BELL], 2, 100 },
    { &sounds[SOUND_DOORS_CLOSING], 1, 0 },
  };
  struct sound_sequence sequence;
  sound_sequence_start(&sequence, entries, 2);
  while (!sound_sequence_ended(&sequence)) sound_tick(&sequence);
  return 0;
}
