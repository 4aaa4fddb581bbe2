import { PLAYER_STEM } from '../../containers/index.ts';
import type { DeliveryRecord } from '../../documents/index.ts';
import type { Decoding } from '../../encodings/index.ts';
import { oneLine } from '../../words/index.ts';
import { type PlayerParts, playerParts, rulesOf } from './sounds.ts';

/** Its name beside the arrays. */
export const C_PLAYER = `${PLAYER_STEM}.h`;

/** Nothing in a text may end a comment. */
export const forComment = (text: string): string => oneLine(text).replaceAll('*/', '* /').replaceAll('/*', '/ *');

const numbers = (values: Iterable<number>): string => {
  const lines: string[] = [''];
  for (const value of values) {
    const last = lines.length - 1;
    if ((lines[last]?.length ?? 0) > 68) lines.push('');
    lines[lines.length - 1] += `${value}, `;
  }
  return lines.map((line) => `  ${line.trimEnd()}`).join('\n');
};

/** A value of so many bits as one of 16: what is missing is added below, what is too much falls off. */
function to16(value: string, bits: number): string {
  if (bits === 16) return `(int16_t)(${value})`;
  return bits < 16 ? `(int16_t)((${value}) * ${2 ** (16 - bits)})` : `(int16_t)sound_below(${value}, ${bits - 16})`;
}

/** A whole number beyond 32 bits, where one is needed. */
const wide = (bits: number) => (bits > 30 ? 'int64_t' : 'int32_t');

const bodyOf = (decoding: Decoding, channels: number): string => body(decoding, channels).join('\n');

/** The lines that decode the next sample: they know `data`, and what they count in `cursor`. */
function body(decoding: Decoding, channels: number): readonly string[] {
  switch (decoding.kind) {
    case 'number': {
      const { bits, signed, bytes, below } = decoding;
      const type = `${signed ? 'int' : 'uint'}${8 * bytes}_t`;
      const read = `SOUND_READ((const ${type} *)data + cursor->at)`;
      const value = below ? `sound_below(${read}, ${below})` : read;
      // What stands above a sample of fewer bits is none of it.
      const isWhole = bits + below === 8 * bytes;
      const word = isWhole ? value : `(uint${8 * bytes}_t)${value} & ${2 ** bits - 1}u`;
      const half = 2 ** (bits - 1);
      return [
        `  ${isWhole ? 'const ' : ''}${wide(bits)} value = (${wide(bits)})(${word})${signed ? '' : ` - ${half}${bits > 30 ? 'LL' : ''}`};`,
        ...(signed && !isWhole ? [`  if (value >= ${half}) value -= ${2 * half};`] : []),
        '  cursor->at++;',
        `  return ${to16('value', bits)};`,
      ];
    }
    case 'bytes': {
      const { bits, signed, bytes, bigEndian, below } = decoding;
      const half = `${2 ** (bits - 1)}LL`;
      const mask = `${2 ** bits - 1}LL`;
      return [
        `  const uint8_t *from = (const uint8_t *)data + cursor->at * ${bytes}u;`,
        '  int64_t value = 0;',
        '  uint8_t i;',
        `  for (i = 0; i < ${bytes}; i++) value |= (int64_t)SOUND_READ(from + i) << (8 * ${bigEndian ? `(${bytes - 1} - i)` : 'i'});`,
        `  value = (value >> ${below}) & ${mask};`,
        signed ? `  if (value >= ${half}) value -= ${2 ** bits}LL;` : `  value -= ${half};`,
        '  cursor->at++;',
        `  return ${to16('value', bits)};`,
      ];
    }
    case 'packed': {
      const { bits, signed, first } = decoding;
      const half = `${2 ** (bits - 1)}LL`;
      return [
        `  const uint32_t from = cursor->at * ${bits}u;`,
        '  int64_t value = 0;',
        '  uint8_t i;',
        `  for (i = 0; i < ${bits}; i++) {`,
        '    const uint32_t bit = from + i;',
        '    const uint8_t byte = SOUND_READ((const uint8_t *)data + (bit >> 3));',
        `    const int64_t one = (byte >> ${first === 'high' ? '(7 - (bit & 7))' : '(bit & 7)'}) & 1;`,
        `    value |= one << ${first === 'high' ? `(${bits - 1} - i)` : 'i'};`,
        '  }',
        signed ? `  if (value >= ${half}) value -= ${2 ** bits}LL;` : `  value -= ${half};`,
        '  cursor->at++;',
        `  return ${to16('value', bits)};`,
      ];
    }
    case 'code':
      return [
        '  uint8_t code = SOUND_READ((const uint8_t *)data + cursor->at);',
        '  cursor->at++;',
        ...(decoding.lines.c ?? []).map((line) => `  ${line}`),
      ];
    case 'nibbles': {
      const { first, rule, shift } = decoding;
      return [
        `  const uint8_t channel = (uint8_t)(cursor->at % ${channels}u);`,
        '  const uint8_t byte = SOUND_READ((const uint8_t *)data + (cursor->at >> 1));',
        `  const uint8_t code = (uint8_t)((cursor->at & 1) ${first === 'low' ? '== 0' : '!= 0'} ? byte & 15 : byte >> 4);`,
        '  cursor->at++;',
        `  return (int16_t)(sound_step(cursor, channel, code, sound_${rule.name}_steps, ${rule.steps.length - 1}, ${rule.most}) * ${2 ** shift});`,
      ];
    }
    case 'blocks': {
      const { blockBytes, blockFrames: frames, rule } = decoding;
      return [
        `  const uint8_t channel = (uint8_t)(cursor->at % ${channels}u);`,
        `  const uint32_t frame = cursor->at / ${channels}u;`,
        `  const uint8_t *block = (const uint8_t *)data + frame / ${frames}u * ${blockBytes}u;`,
        `  const uint32_t within = frame % ${frames}u;`,
        '  uint8_t byte;',
        '  cursor->at++;',
        '  if (within == 0) {',
        '    const int32_t low = SOUND_READ(block + 4u * channel);',
        '    const int32_t high = SOUND_READ(block + 4u * channel + 1);',
        '    const int32_t sample = low + 256 * high;',
        '    cursor->sample[channel] = (int16_t)(sample > 32767 ? sample - 65536 : sample);',
        '    cursor->step[channel] = SOUND_READ(block + 4u * channel + 2);',
        '    return cursor->sample[channel];',
        '  }',
        `  byte = SOUND_READ(block + ${4 * channels}u + 4u * ((within - 1) / 8 * ${channels}u + channel) + (within - 1) % 8 / 2);`,
        `  return sound_step(cursor, channel, (uint8_t)((within - 1) & 1 ? byte >> 4 : byte & 15), sound_${rule.name}_steps, ${rule.steps.length - 1}, ${rule.most});`,
      ];
    }
  }
}

/** The functions that decode a player's sounds, by their bodies: one for all that are decoded alike. */
function functionsOf(sounds: PlayerParts['sounds']): ReadonlyMap<string, string> {
  const names = new Map<string, string>();
  const bodies = new Map<string, number>();
  for (const { decoding, channels, encoding } of sounds) {
    const lines = bodyOf(decoding, channels);
    if (names.has(lines)) continue;
    const count = (bodies.get(encoding) ?? 0) + 1;
    bodies.set(encoding, count);
    names.set(lines, `sound_next_${encoding.replaceAll('-', '_')}${count > 1 ? `_${count}` : ''}`);
  }
  return names;
}

const STEP = `/* The sample that a code of four bits stands for: sign, then the step, half of it and a quarter, over an eighth. */
static inline int16_t sound_step(struct sound_cursor *cursor, uint8_t channel, uint8_t code, const int16_t *steps,
                                 uint8_t last, int32_t most) {
  static const int8_t moves[8] = { -1, -1, -1, -1, 2, 4, 6, 8 };
  const int32_t step = steps[cursor->step[channel] > last ? last : cursor->step[channel]];
  int32_t difference = step >> 3;
  int32_t sample;
  int16_t index;
  if (code & 4) difference += step;
  if (code & 2) difference += step >> 1;
  if (code & 1) difference += step >> 2;
  sample = cursor->sample[channel] + (code & 8 ? -difference : difference);
  if (sample > most) sample = most;
  if (sample < -most - 1) sample = -most - 1;
  index = (int16_t)(cursor->step[channel] + moves[code & 7]);
  if (index < 0) index = 0;
  if (index > last) index = last;
  cursor->sample[channel] = (int16_t)sample;
  cursor->step[channel] = (uint8_t)index;
  return (int16_t)sample;
}
`;

function timerLines({ timer, sounds }: PlayerParts): string[] {
  const rates = [...new Set(sounds.map(({ sampleRate }) => sampleRate))];
  const exact = timer
    ? [
        `/* The timer makes exactly ${timer.clock} / (${timer.prescaler} x (${timer.top} + 1)) samples a second. */`,
        `#define SOUND_CLOCK ${timer.clock}UL`,
        `#define SOUND_PRESCALER ${timer.prescaler}u`,
        `#define SOUND_TOP ${timer.top}u`,
      ]
    : [];
  return [
    ...exact,
    ...(rates.length === 1 ? [`/* Samples a second, of each channel. */`, `#define SOUND_RATE ${rates[0]}u`] : []),
    '/* What a timer counts to for a rate: its interrupt then comes clock / (prescaler x (top + 1)) times a second. */',
    '#define SOUND_TIMER_TOP(clock, prescaler, rate) \\',
    '  (((clock) + (uint32_t)(prescaler) * (rate) / 2) / ((uint32_t)(prescaler) * (rate)) - 1)',
    '',
  ];
}

/** A player in C99 for the sounds of a delivery: no library, no memory of its own, whole numbers only. */
export function cPlayer(record: DeliveryRecord): string {
  const parts = playerParts(record, 'c');
  const { sounds, files, left, title } = parts;
  const functions = functionsOf(sounds);
  const rules = rulesOf(sounds);
  const mostChannels = Math.max(1, ...sounds.map(({ channels }) => channels));
  const name = (i: number, array: string) =>
    `SOUND_${array.toUpperCase()}${sounds.findIndex((sound) => sound.array === array) === i ? '' : `_${i}`}`;
  return [
    `/* A player for the sounds of ${forComment(title)}. MIT licence: use it, change it, keep this line.`,
    '',
    '   1. SOUND_READ(pointer) reads a number of an array. Where arrays stand in a memory of their own, define it before this',
    '      file is included: on an AVR with PROGMEM as',
    '      (sizeof *(pointer) == 1 ? pgm_read_byte(pointer) : pgm_read_word(pointer)).',
    '   2. SOUND_WRITE(sample) gives a sample, -32768 to 32767, to the converter: define it, and call sound_tick() from the',
    '      interrupt of a timer at the rate of the sound, once for each channel in turn.',
    '   Or call sound_next() yourself. */',
    '#ifndef SOUND_PLAYER_H',
    '#define SOUND_PLAYER_H',
    '',
    '#include <stdint.h>',
    '',
    ...files.map((file) => `#include "${file}"`),
    ...new Set(sounds.flatMap(({ declaration }) => declaration ?? [])),
    ...left.map((what) => `/* Not played from here: ${forComment(what)}. */`),
    '',
    '#ifndef SOUND_READ',
    '#define SOUND_READ(pointer) (*(pointer))',
    '#endif',
    '',
    ...timerLines(parts),
    'struct sound_cursor;',
    '',
    '/* A sound: its array, how that is decoded, its samples (of all channels), its rate, its channels. */',
    'struct sound {',
    '  const void *data;',
    '  int16_t (*next)(struct sound_cursor *cursor, const void *data);',
    '  uint32_t samples;',
    '  uint32_t rate;',
    '  uint8_t channels;',
    '};',
    '',
    '/* A place in a sound. */',
    'struct sound_cursor {',
    '  const struct sound *sound;',
    '  uint32_t at;',
    `  int16_t sample[${mostChannels}];`,
    `  uint8_t step[${mostChannels}];`,
    '};',
    '',
    '/* A negative number too is rounded down, whatever the compiler does with its bits. */',
    'static inline int64_t sound_below(int64_t value, uint8_t bits) {',
    '  const int64_t unit = (int64_t)1 << bits;',
    '  return value >= 0 ? value / unit : -((-value + unit - 1) / unit);',
    '}',
    '',
    ...rules.flatMap(({ name, steps }) => [
      `static const int16_t sound_${name}_steps[${steps.length}] = {`,
      numbers(steps),
      '};',
      '',
    ]),
    ...(rules.length ? [STEP] : []),
    ...[...functions].flatMap(([lines, called]) => [
      `static inline int16_t ${called}(struct sound_cursor *cursor, const void *data) {`,
      lines,
      '}',
      '',
    ]),
    'enum {',
    ...sounds.map(({ array, title: words }, i) => `  ${name(i, array)}, /* ${forComment(words)} */`),
    '  SOUND_COUNT',
    '};',
    '',
    'static const struct sound sounds[] = {',
    ...sounds.map(
      (sound) =>
        `  { ${sound.array}, ${functions.get(bodyOf(sound.decoding, sound.channels))}, ${sound.frames * sound.channels}u, ${sound.sampleRate}u, ${sound.channels}u },`,
    ),
    '};',
    '',
    '/* Puts a cursor before the first sample of a sound. */',
    'static inline void sound_start(struct sound_cursor *cursor, const struct sound *sound) {',
    '  uint8_t channel;',
    '  cursor->sound = sound;',
    '  cursor->at = 0;',
    `  for (channel = 0; channel < ${mostChannels}; channel++) {`,
    '    cursor->sample[channel] = 0;',
    '    cursor->step[channel] = 0;',
    '  }',
    '}',
    '',
    'static inline int sound_ended(const struct sound_cursor *cursor) { return cursor->at >= cursor->sound->samples; }',
    '',
    '/* The next sample, -32768 to 32767; channels take turns. Silence after the end. */',
    'static inline int16_t sound_next(struct sound_cursor *cursor) {',
    '  return sound_ended(cursor) ? 0 : cursor->sound->next(cursor, cursor->sound->data);',
    '}',
    '',
    '/* A sound, how often it comes, and the silence after each time. */',
    'struct sound_entry {',
    '  const struct sound *sound;',
    '  uint16_t times;',
    '  uint16_t pause_ms;',
    '};',
    '',
    '/* Several sounds one after the other, all of one rate and of as many channels. */',
    'struct sound_sequence {',
    '  const struct sound_entry *entries;',
    '  uint16_t count;',
    '  uint16_t entry;',
    '  uint16_t time;',
    '  uint32_t pause;',
    '  struct sound_cursor cursor;',
    '};',
    '',
    'static inline void sound_sequence_start(struct sound_sequence *sequence, const struct sound_entry *entries,',
    '                                        uint16_t count) {',
    '  sequence->entries = entries;',
    '  sequence->count = count;',
    '  sequence->entry = 0;',
    '  sequence->time = 0;',
    '  sequence->pause = 0;',
    '  if (count > 0) sound_start(&sequence->cursor, entries[0].sound);',
    '}',
    '',
    'static inline int sound_sequence_ended(const struct sound_sequence *sequence) {',
    '  return sequence->entry >= sequence->count;',
    '}',
    '',
    '/* The next sample of a sequence; silence in its pauses and after its end. */',
    'static inline int16_t sound_sequence_next(struct sound_sequence *sequence) {',
    '  int16_t sample;',
    '  const struct sound_entry *entry;',
    '  if (sound_sequence_ended(sequence)) return 0;',
    '  entry = &sequence->entries[sequence->entry];',
    '  if (sequence->pause > 0) {',
    '    sequence->pause--;',
    '    sample = 0;',
    '  } else {',
    '    sample = sound_next(&sequence->cursor);',
    '    if (!sound_ended(&sequence->cursor)) return sample;',
    '    sequence->pause = (uint32_t)((uint64_t)entry->sound->rate * entry->pause_ms / 1000u * entry->sound->channels);',
    '  }',
    '  if (sequence->pause > 0) return sample;',
    '  if (++sequence->time >= entry->times) {',
    '    sequence->time = 0;',
    '    sequence->entry++;',
    '  }',
    '  if (!sound_sequence_ended(sequence)) sound_start(&sequence->cursor, sequence->entries[sequence->entry].sound);',
    '  return sample;',
    '}',
    '',
    '#ifdef SOUND_WRITE',
    '/* What the interrupt of the timer calls. */',
    'static inline void sound_tick(struct sound_sequence *sequence) { SOUND_WRITE(sound_sequence_next(sequence)); }',
    '#endif',
    '',
    '#endif',
    '',
  ].join('\n');
}
