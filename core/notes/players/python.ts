import { PLAYER_STEM } from '../../containers/index.ts';
import type { DeliveryRecord } from '../../documents/index.ts';
import type { Decoding } from '../../encodings/index.ts';
import { forComment } from './c.ts';
import { type PlayedSound, playerParts, rulesOf } from './sounds.ts';

/** Its name beside the arrays. */
export const PYTHON_PLAYER = `${PLAYER_STEM}.py`;

const to16 = (value: string, bits: number): string =>
  bits <= 16 ? `(${value}) << ${16 - bits}` : `(${value}) >> ${bits - 16}`;

/** The lines that yield every sample of an array called `data`, `samples` of them. */
function body(decoding: Decoding, channels: number): readonly string[] {
  switch (decoding.kind) {
    case 'number': {
      const { bits, signed, below } = decoding;
      const half = 2 ** (bits - 1);
      return [
        'for at in range(samples):',
        `    value = (data[at] >> ${below}) & ${2 ** bits - 1}`,
        signed ? `    value -= ${2 ** bits} if value >= ${half} else 0` : `    value -= ${half}`,
        `    yield ${to16('value', bits)}`,
      ];
    }
    case 'bytes': {
      const { bits, signed, bytes, bigEndian, below } = decoding;
      const half = 2 ** (bits - 1);
      return [
        'for at in range(samples):',
        `    value = int.from_bytes(data[at * ${bytes}:(at + 1) * ${bytes}], '${bigEndian ? 'big' : 'little'}')`,
        `    value = (value >> ${below}) & ${2 ** bits - 1}`,
        signed ? `    value -= ${2 ** bits} if value >= ${half} else 0` : `    value -= ${half}`,
        `    yield ${to16('value', bits)}`,
      ];
    }
    case 'packed': {
      const { bits, signed, first } = decoding;
      const half = 2 ** (bits - 1);
      const within = first === 'high' ? '7 - (bit & 7)' : 'bit & 7';
      const weight = first === 'high' ? `${bits - 1} - i` : 'i';
      return [
        'for at in range(samples):',
        '    value = 0',
        `    for i in range(${bits}):`,
        `        bit = at * ${bits} + i`,
        `        value |= ((data[bit >> 3] >> (${within})) & 1) << (${weight})`,
        signed ? `    value -= ${2 ** bits} if value >= ${half} else 0` : `    value -= ${half}`,
        `    yield ${to16('value', bits)}`,
      ];
    }
    case 'code':
      return [
        'for at in range(samples):',
        '    code = data[at]',
        ...(decoding.lines.python ?? []).map((line) => `    ${line}`),
      ];
    case 'nibbles': {
      const { first, rule, shift } = decoding;
      return [
        `coders = [Steps(${rule.name.toUpperCase()}_STEPS, ${rule.most}) for _ in range(${channels})]`,
        'for at in range(samples):',
        '    byte = data[at >> 1]',
        `    code = byte & 15 if at & 1 ${first === 'low' ? '==' : '!='} 0 else byte >> 4`,
        `    yield coders[at % ${channels}].step(code) << ${shift}`,
      ];
    }
    case 'blocks': {
      const { blockBytes, blockFrames: frames, rule } = decoding;
      return [
        `coders = [Steps(${rule.name.toUpperCase()}_STEPS, ${rule.most}) for _ in range(${channels})]`,
        'for at in range(samples):',
        `    frame, channel = divmod(at, ${channels})`,
        `    block, within = divmod(frame, ${frames})`,
        `    head = block * ${blockBytes} + 4 * channel`,
        '    if within == 0:',
        '        sample = data[head] | data[head + 1] << 8',
        '        coders[channel].start(sample - 65536 if sample > 32767 else sample, data[head + 2])',
        '        yield coders[channel].sample',
        '        continue',
        `    byte = data[block * ${blockBytes} + ${4 * channels} + 4 * ((within - 1) // 8 * ${channels} + channel) + (within - 1) % 8 // 2]`,
        '    yield coders[channel].step(byte >> 4 if (within - 1) & 1 else byte & 15)',
      ];
    }
  }
}

const STEPS = `class Steps:
    """Codes of four bits: sign, then the step, half of it and a quarter, over an eighth."""

    MOVES = (-1, -1, -1, -1, 2, 4, 6, 8)

    def __init__(self, steps, most):
        self.steps = steps
        self.most = most
        self.start(0, 0)

    def start(self, sample, index):
        self.sample = sample
        self.index = min(index, len(self.steps) - 1)

    def step(self, code):
        size = self.steps[self.index]
        difference = size >> 3
        if code & 4:
            difference += size
        if code & 2:
            difference += size >> 1
        if code & 1:
            difference += size >> 2
        sample = self.sample + (-difference if code & 8 else difference)
        self.sample = max(-self.most - 1, min(self.most, sample))
        self.index = max(0, min(len(self.steps) - 1, self.index + self.MOVES[code & 7]))
        return self.sample

`;

/** A player in Python for the sounds of a delivery: nothing is imported but their arrays, whole numbers only. */
export function pythonPlayer(record: DeliveryRecord): string {
  const { sounds, left, title, timer } = playerParts(record, 'python');
  const rules = rulesOf(sounds);
  const moduleOf = ({ file }: PlayedSound) => file.replace(/\.[^.]*$/, '');
  /** How a module is called in the player: names with hyphens can be imported, but not written. */
  const variableOf = (sound: PlayedSound) => moduleOf(sound).replace(/\W/g, '_');
  const importOf = (sound: PlayedSound) =>
    variableOf(sound) === moduleOf(sound)
      ? `import ${moduleOf(sound)}`
      : `${variableOf(sound)} = __import__('${moduleOf(sound)}')`;
  return [
    `# A player for the sounds of ${forComment(title)}. MIT licence: use it, change it, keep this line.`,
    '# SOUNDS has them by name: samples() yields -32768 to 32767, channels take turns. Give each to the converter at the rate',
    '# of the sound.',
    ...left.map((what) => `# Not played from here: ${forComment(what)}.`),
    ...new Set(sounds.map(importOf)),
    '',
    ...(timer
      ? [
          `# The timer makes exactly ${timer.clock} / (${timer.prescaler} * (${timer.top} + 1)) samples a second.`,
          `SOUND_CLOCK = ${timer.clock}`,
          `SOUND_PRESCALER = ${timer.prescaler}`,
          `SOUND_TOP = ${timer.top}`,
          '',
        ]
      : []),
    ...rules.flatMap(({ name, steps }) => [`${name.toUpperCase()}_STEPS = (${[...steps].join(', ')})`, '']),
    ...(rules.length ? ['', STEPS] : []),
    '',
    ...sounds.flatMap((sound) => [
      `def _${sound.array.toLowerCase()}():`,
      `    data = ${variableOf(sound)}.${sound.array.toUpperCase()}`,
      `    samples = ${sound.frames * sound.channels}`,
      ...body(sound.decoding, sound.channels).map((line) => `    ${line}`),
      '',
      '',
    ]),
    'class Sound:',
    '    def __init__(self, samples, rate, channels):',
    '        self.samples = samples',
    '        self.rate = rate',
    '        self.channels = channels',
    '',
    '',
    'SOUNDS = {',
    ...sounds.map(
      ({ array, sampleRate, channels }) =>
        `    '${array}': Sound(_${array.toLowerCase()}, ${sampleRate}, ${channels}),`,
    ),
    '}',
    '',
    '',
    'def sequence(entries):',
    '    """Samples of several sounds: (name, times, pause in milliseconds) for each."""',
    '    for name, times, pause_ms in entries:',
    '        sound = SOUNDS[name]',
    '        for _ in range(times):',
    '            for sample in sound.samples():',
    '                yield sample',
    '            for _ in range(sound.rate * pause_ms // 1000 * sound.channels):',
    '                yield 0',
    '',
  ].join('\n');
}
