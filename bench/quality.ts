// How good the sound is that comes out, measured. Run: npm run bench:quality

import {
  EBU_RATE,
  type EbuCase,
  integratedCases,
  rangeCases,
  shortTermCases,
  truePeakCases,
} from '../core/dsp/fixtures/ebu.ts';
import {
  DITHERS,
  type Dither,
  hearing,
  LoudnessMeter,
  quantise,
  SPECTRUM_SIZE,
  SpectrumMeter,
  surroundMix,
  TruePeakMeter,
} from '../core/dsp/index.ts';
import type { Rate } from '../core/numbers/index.ts';
import { machine, writeSection } from './report.mjs';
import { type Convert, contenders, OWN, qualityOf, RATIOS, sine } from './resampling.ts';

const minus = (value: number, digits: number) => value.toFixed(digits).replace('-', '\u2212');

/** "16 000 000 / 1020 Hz" or "44100 Hz". */
const rateWords = (rate: Rate) => String(rate).replace('/', ' / ');

function resamplingRow(title: string, convert: Convert, from: Rate, to: Rate): string {
  const { ripple, stopBand, noise, twoTone, sweep, dc } = qualityOf(convert, from, to);
  const figures = [
    ripple.toFixed(4),
    ...[stopBand, sweep, noise, twoTone].map((value) => minus(value, 0)),
    dc === 0 ? '0' : dc.toExponential(0),
  ];
  return `| ${rateWords(from)} to ${rateWords(to)} Hz | ${title} | ${figures.join(' | ')} |`;
}

const rows: string[] = [];
for (const [from, to] of RATIOS) {
  for (const { title, make } of contenders) {
    const { convert, end } = await make(from, to);
    rows.push(resamplingRow(title, convert, from, to));
    end();
  }
}
for (const { title, from, to, convert } of OWN) rows.push(resamplingRow(title, convert, from, to));

writeSection(
  'resampling',
  `## Resampling

Made by \`npm run bench:quality\` on ${machine}. Sines of a second, the middle half counts: largest deviation up to 0.913 of
the lower Nyquist frequency; what is left of sines from that frequency on (going up: of images); what a
full-scale sweep over all that does not belong leaves of its energy (going up: above the old band); noise and distortion of a full-scale
sine of 997 Hz; what two tones of half of full scale leave beside themselves; all in dB. Last, the error of a constant. The
goals of the standard quality are 0.01, \u2212120, \u2212115, \u2212115, \u2212115 and 1e-6. The draft promises 80 dB up to 0.8 of the band.

| rates | converter | ripple | stop band | sweep | THD+N | two tones | constant |
|---|---|---|---|---|---|---|---|
${rows.join('\n')}
`,
  'docs/quality.md',
);

/** Mean power of the error of 8-bit rounding between two frequencies, in dB of a full-scale sine. */
function errorBands(dither: Dither, rate: number, edges: readonly number[]): { bands: number[]; heard: number } {
  const sound = sine(440, rate, 4, 0.25);
  const { channels } = quantise([sound], { bits: 8, dither, sampleRate: rate });
  const meter = new SpectrumMeter({ thorough: true });
  meter.add([sound.map((value, i) => channels[0][i] / 128 - value)]);
  const power = meter.result();
  const frames = sound.length;
  // The whole error's power is known from the samples; its parts from the spectrum.
  const whole = sound.reduce((sum, value, i) => sum + (channels[0][i] / 128 - value) ** 2, 0) / frames;
  const total = power.reduce((sum, value) => sum + value, 0);
  const bin = rate / SPECTRUM_SIZE;
  const between = (from: number, to: number) =>
    power.reduce((sum, value, k) => (k * bin >= from && k * bin < to ? sum + value : sum), 0);
  const db = (part: number) => 10 * Math.log10((2 * whole * part) / total);
  const heard = power.reduce((sum, value, k) => sum + value * hearing(k * bin), 0);
  const reference = hearing(3300);
  return { bands: edges.slice(1).map((edge, i) => db(between(edges[i] ?? 0, edge))), heard: db(heard / reference) };
}

const EDGES = [0, 1000, 2000, 4000, 8000, 16_000, 24_000];
const ditherRows = [8_000, 16_000, 22_050, 44_100, 48_000].flatMap((rate) =>
  DITHERS.map((dither) => {
    const { bands, heard } = errorBands(dither, rate, EDGES);
    const shown = bands.map((value, i) => ((EDGES[i] ?? 0) >= rate / 2 ? '' : minus(value, 1)));
    return `| ${rate} Hz | ${dither} | ${shown.join(' | ')} | ${minus(heard, 1)} |`;
  }),
);

writeSection(
  'dither',
  `## Dither

Made by \`npm run bench:quality\`: the error of rounding a sine of 440 Hz at \u221212 dBFS to 8 bits, in dB of a full-scale sine,
by frequency band in kHz; last, as loud as the ear hears it (weighted by the threshold in quiet of Terhardt, 1979; a noise
at 3.3 kHz counts as it is). 6.02 x 8 + 1.76 = 49.9 dB is the textbook's figure for no dither; rectangular dither adds 3.0
dB of noise, triangular 4.8 dB. At 40 000 to 50 000 Hz the shaping is the published one of Lipshitz, Vanderkooy and
Wannamaker (1991), at other rates the best of its order for that weighting.

| rate | dither | to 1 | 1 to 2 | 2 to 4 | 4 to 8 | 8 to 16 | above 16 | as heard |
|---|---|---|---|---|---|---|---|---|
${ditherRows.join('\n')}
`,
  'docs/quality.md',
);

const LAYOUTS = [
  ['L', 'R', 'C'],
  ['L', 'R', 'Ls', 'Rs'],
  ['L', 'R', 'C', 'Ls', 'Rs'],
  ['L', 'R', 'C', 'LFE', 'Ls', 'Rs'],
  ['L', 'R', 'C', 'LFE', 'Lb', 'Rb', 'Ls', 'Rs'],
];
const mixRows = LAYOUTS.flatMap((layout) =>
  ([2, 1] as const).flatMap((outputs) =>
    (surroundMix(layout.length, layout, outputs) ?? []).map((row, i) => {
      const most = Math.max(...row);
      const name = outputs === 1 ? 'mono' : (['left', 'right'][i] ?? '');
      const shares = row.map((weight, k) => `${layout[k]} ${weight.toFixed(4)} (${(weight / most).toFixed(4)})`);
      return `| ${layout.join(' ')} | ${name} | ${shares.join(', ')} |`;
    }),
  ),
);

writeSection(
  'downmix',
  `## Downmix

Made by \`npm run bench:quality\`: what each speaker gives, and in brackets its share of the largest, which is that of ITU-R
BS.775-3, table 2 (from memory): 1, 0.7071, 0.5. The weights of a row add up to at most 1, so that nothing can clip.

| speakers | out | weights |
|---|---|---|
${mixRows.join('\n')}
`,
  'docs/quality.md',
);

function meterOf(channels: readonly Float32Array[]): LoudnessMeter {
  const meter = new LoudnessMeter(EBU_RATE, channels.length);
  meter.add(channels);
  return meter;
}

const loudnessRows = (
  document: string,
  unit: string,
  cases: readonly EbuCase[],
  measure: (meter: LoudnessMeter) => number | null,
) =>
  cases.map(({ name, channels, wanted, tolerance }) => {
    const found = measure(meterOf(channels()));
    const shown = found === null ? 'none' : minus(found, 2);
    return `| ${document}, case ${name} | ${minus(wanted, 1)} ${unit} | ±${tolerance} | ${shown} |`;
  });

/** A band-limited pulse of full scale whose top lies between two samples. */
const pulse = (offset: number) =>
  Float32Array.from({ length: 4800 }, (_, i) => {
    const t = i - 2400 - offset;
    // Half of the band: what a meter that looks at four places a sample can follow.
    const x = (Math.PI * t) / 2;
    return (t === 0 ? 1 : Math.sin(x) / x) * (0.5 + 0.5 * Math.cos((Math.PI * t) / 2401));
  });

const pulseRows = [0, 0.25, 0.5, 0.75].map((offset) => {
  const meter = new TruePeakMeter();
  meter.add(pulse(offset));
  return `| our own pulse, its top ${offset} of a sample late | 0.0 dBTP | +0.2, \u22120.4 | ${minus(20 * Math.log10(meter.result()), 2)} |`;
});

const peakRows = truePeakCases.map(({ name, samples, wanted }) => {
  const meter = new TruePeakMeter();
  meter.add(samples());
  return `| 3341, true peak, case ${name} | ${minus(wanted, 1)} dBTP | +0.2, \u22120.4 | ${minus(20 * Math.log10(meter.result()), 2)} |`;
});

writeSection(
  'loudness',
  `## Loudness and true peak

Made by \`npm run bench:quality\`: the synthetic signals of EBU Tech 3341 and 3342 (from memory), and what our meters show. Cases 20 to
23 of Tech 3341 are pulses whose exact form is not known to us; pulses of our own with a known top stand in their place.

| signal | wanted | tolerance | found |
|---|---|---|---|
${[
  ...loudnessRows('3341, integrated', 'LUFS', integratedCases, (meter) => meter.integrated()),
  ...loudnessRows('3341, highest short-term', 'LUFS', shortTermCases, (meter) => meter.loudestTerm()),
  ...loudnessRows('3342, range', 'LU', rangeCases, (meter) => meter.range()),
  ...peakRows,
  ...pulseRows,
].join('\n')}
`,
  'docs/quality.md',
);
