import { PLAYER_STEM } from '../../containers/index.ts';
import type { DeliveryRecord } from '../../documents/index.ts';
import type { Decoding } from '../../encodings/index.ts';
import { forComment } from './c.ts';
import { type PlayedSound, playerParts, rulesOf } from './sounds.ts';

/** Its name beside the arrays. */
export const RUST_PLAYER = `${PLAYER_STEM}.rs`;

const to16 = (value: string, bits: number): string =>
  bits <= 16 ? `((${value}) << ${16 - bits}) as i16` : `((${value}) >> ${bits - 16}) as i16`;

/** The expression of the next sample. `data` is the array, `self` the cursor. */
function body(decoding: Decoding, channels: number): readonly string[] {
  const byteAt = (index: string) => `data[${index}]`;
  switch (decoding.kind) {
    case 'number': {
      const { bits, signed, below } = decoding;
      const read = `data[self.at] as i64 >> ${below}`;
      return [`let value = ${signed ? read : `(${read}) - ${2 ** (bits - 1)}`};`, to16('value', bits)];
    }
    case 'bytes': {
      const { bits, signed, bytes, bigEndian, below } = decoding;
      const place = bigEndian ? `${bytes - 1} - i` : 'i';
      return [
        `let mut value: i64 = 0;`,
        `for i in 0..${bytes} { value |= (${byteAt(`self.at * ${bytes} + i`)} as i64) << (8 * (${place})); }`,
        `value = (value >> ${below}) & ${2 ** bits - 1};`,
        signed ? `if value >= ${2 ** (bits - 1)} { value -= ${2 ** bits}; }` : `value -= ${2 ** (bits - 1)};`,
        to16('value', bits),
      ];
    }
    case 'packed': {
      const { bits, signed, first } = decoding;
      const within = first === 'high' ? '7 - (bit & 7)' : 'bit & 7';
      const weight = first === 'high' ? `${bits - 1} - i` : 'i';
      return [
        'let mut value: i64 = 0;',
        `for i in 0..${bits} {`,
        `    let bit = self.at * ${bits} + i;`,
        `    value |= ((${byteAt('bit >> 3')} as i64 >> (${within})) & 1) << (${weight});`,
        '}',
        signed ? `if value >= ${2 ** (bits - 1)} { value -= ${2 ** bits}; }` : `value -= ${2 ** (bits - 1)};`,
        to16('value', bits),
      ];
    }
    case 'code':
      return ['let code = data[self.at];', ...(decoding.lines.rust ?? [])];
    case 'nibbles': {
      const { first, rule, shift } = decoding;
      return [
        `let byte = ${byteAt('self.at >> 1')};`,
        `let code = if self.at & 1 ${first === 'low' ? '==' : '!='} 0 { byte & 15 } else { byte >> 4 };`,
        `(step(self, self.at % ${channels}, code, &${rule.name.toUpperCase()}_STEPS, ${rule.most}) << ${shift}) as i16`,
      ];
    }
    case 'blocks': {
      const { blockBytes, blockFrames: frames, rule } = decoding;
      const steps = `${rule.name.toUpperCase()}_STEPS`;
      return [
        `let channel = self.at % ${channels};`,
        `let frame = self.at / ${channels};`,
        `let block = frame / ${frames} * ${blockBytes};`,
        `let within = frame % ${frames};`,
        'if within == 0 {',
        '    let head = block + 4 * channel;',
        '    self.sample[channel] = i16::from_le_bytes([data[head], data[head + 1]]) as i32;',
        `    self.step[channel] = (data[head + 2] as usize).min(${steps}.len() - 1);`,
        '    return self.sample[channel] as i16;',
        '}',
        `let byte = data[block + ${4 * channels} + 4 * ((within - 1) / 8 * ${channels} + channel) + (within - 1) % 8 / 2];`,
        'let code = if (within - 1) & 1 == 0 { byte & 15 } else { byte >> 4 };',
        `step(self, channel, code, &${steps}, ${rule.most}) as i16`,
      ];
    }
  }
}

const STEP = `/// The sample that a code of four bits stands for: sign, then the step, half of it and a quarter, over an eighth.
fn step(cursor: &mut Cursor, channel: usize, code: u8, steps: &[i32], most: i32) -> i32 {
    const MOVES: [isize; 8] = [-1, -1, -1, -1, 2, 4, 6, 8];
    let size = steps[cursor.step[channel]];
    let mut difference = size >> 3;
    if code & 4 != 0 { difference += size; }
    if code & 2 != 0 { difference += size >> 1; }
    if code & 1 != 0 { difference += size >> 2; }
    if code & 8 != 0 { difference = -difference; }
    cursor.sample[channel] = (cursor.sample[channel] + difference).clamp(-most - 1, most);
    let index = cursor.step[channel] as isize + MOVES[(code & 7) as usize];
    cursor.step[channel] = index.clamp(0, steps.len() as isize - 1) as usize;
    cursor.sample[channel]
}
`;

/** A player in Rust for the sounds of a delivery: no allocation, nothing of the standard library, whole numbers only. */
export function rustPlayer(record: DeliveryRecord): string {
  const { sounds, files, left, title, timer } = playerParts(record, 'rust');
  const rules = rulesOf(sounds);
  const mostChannels = Math.max(1, ...sounds.map(({ channels }) => channels));
  return [
    `// A player for the sounds of ${forComment(title)}. MIT licence: use it, change it, keep this line.`,
    '// Call next() from the interrupt of a timer at the rate of the sound, once for each channel in turn, and give what it',
    '// returns to the converter.',
    ...left.map((what) => `// Not played from here: ${forComment(what)}.`),
    '#![allow(dead_code, clippy::all)]',
    '',
    ...files.map((file) => `include!("${file}");`),
    '',
    ...(timer
      ? [
          `/// The timer makes exactly ${timer.clock} / (${timer.prescaler} x (${timer.top} + 1)) samples a second.`,
          `pub const SOUND_CLOCK: u32 = ${timer.clock};`,
          `pub const SOUND_PRESCALER: u32 = ${timer.prescaler};`,
          `pub const SOUND_TOP: u32 = ${timer.top};`,
          '',
        ]
      : []),
    '/// A sound: its samples (of all channels), its rate, its channels.',
    '#[derive(Clone, Copy, PartialEq)]',
    'pub enum Sound {',
    ...sounds.map(({ array, title: words }) => `    /// ${forComment(words)}\n    ${camel(array)},`),
    '}',
    '',
    'impl Sound {',
    `    pub const ALL: [Sound; ${sounds.length}] = [${sounds.map(({ array }) => `Sound::${camel(array)}`).join(', ')}];`,
    ...figures('samples', 'usize', sounds, ({ frames, channels }) => frames * channels),
    ...figures('rate', 'u32', sounds, ({ sampleRate }) => sampleRate),
    ...figures('channels', 'usize', sounds, ({ channels }) => channels),
    '}',
    '',
    '/// A place in a sound.',
    'pub struct Cursor {',
    '    sound: Sound,',
    '    at: usize,',
    `    sample: [i32; ${mostChannels}],`,
    `    step: [usize; ${mostChannels}],`,
    '}',
    '',
    ...rules.flatMap(({ name, steps }) => [
      `static ${name.toUpperCase()}_STEPS: [i32; ${steps.length}] = [${[...steps].join(', ')}];`,
      '',
    ]),
    ...(rules.length ? [STEP] : []),
    'impl Cursor {',
    '    pub fn new(sound: Sound) -> Cursor {',
    `        Cursor { sound, at: 0, sample: [0; ${mostChannels}], step: [0; ${mostChannels}] }`,
    '    }',
    '',
    '    pub fn ended(&self) -> bool {',
    '        self.at >= self.sound.samples()',
    '    }',
    '',
    '    /// The next sample, -32768 to 32767; channels take turns. Silence after the end.',
    '    pub fn next(&mut self) -> i16 {',
    '        if self.ended() { return 0; }',
    '        let sample = match self.sound {',
    ...sounds.map(({ array }) => `            Sound::${camel(array)} => self.${array.toLowerCase()}(),`),
    '        };',
    '        self.at += 1;',
    '        sample',
    '    }',
    ...sounds.flatMap(({ array, decoding, channels }) => [
      '',
      `    fn ${array.toLowerCase()}(&mut self) -> i16 {`,
      `        let data = &${array.toUpperCase()};`,
      ...body(decoding, channels).map((line) => `        ${line}`),
      '    }',
    ]),
    '}',
    '',
    '/// A sound, how often it comes, and the silence after each time in milliseconds.',
    'pub struct Entry { pub sound: Sound, pub times: u32, pub pause_ms: u32 }',
    '',
    '/// Several sounds one after the other, all of one rate and of as many channels.',
    "pub struct Sequence<'a> { entries: &'a [Entry], entry: usize, time: u32, pause: u64, cursor: Cursor }",
    '',
    "impl<'a> Sequence<'a> {",
    '    /// There has to be an entry.',
    "    pub fn new(entries: &'a [Entry]) -> Sequence<'a> {",
    '        Sequence { entries, entry: 0, time: 0, pause: 0, cursor: Cursor::new(entries[0].sound) }',
    '    }',
    '',
    '    pub fn ended(&self) -> bool { self.entry >= self.entries.len() }',
    '',
    '    /// The next sample; silence in pauses and after the end.',
    '    pub fn next(&mut self) -> i16 {',
    '        if self.ended() { return 0; }',
    '        let entry = &self.entries[self.entry];',
    '        let mut sample = 0;',
    '        if self.pause > 0 { self.pause -= 1; } else {',
    '            sample = self.cursor.next();',
    '            if !self.cursor.ended() { return sample; }',
    '            let sound = entry.sound;',
    '            self.pause = sound.rate() as u64 * entry.pause_ms as u64 / 1000 * sound.channels() as u64;',
    '        }',
    '        if self.pause > 0 { return sample; }',
    '        self.time += 1;',
    '        if self.time >= entry.times { self.time = 0; self.entry += 1; }',
    '        if !self.ended() { self.cursor = Cursor::new(self.entries[self.entry].sound); }',
    '        sample',
    '    }',
    '}',
    '',
  ].join('\n');
}

const camel = (array: string): string =>
  array
    .split('_')
    .filter(Boolean)
    .map((word) => word.charAt(0).toUpperCase() + word.slice(1))
    .join('');

const figures = (
  name: string,
  type: string,
  sounds: readonly PlayedSound[],
  of: (sound: PlayedSound) => number,
): string[] => [
  '',
  `    pub fn ${name}(self) -> ${type} {`,
  `        match self { ${sounds.map((sound) => `Sound::${camel(sound.array)} => ${of(sound)}`).join(', ')} }`,
  '    }',
];
