// Times, in the built page, how the bench follows a hand, and how soon long sounds are there. Run: npm run build && npm run bench:lanes
import { closeSync, mkdtempSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { machine, spread, writeSection } from './report.mjs';
import { chromiumOptions, startServer } from './server.mjs';
import { RATE, wavHead } from './sounds.mjs';

const RUNS = 7;
/** Hz of a tone of 100 frames a turn, frames of ten turns of it, and of a quarter of one. */
const TONE = 441;
const TURN = 1000;
const QUARTER = 25;
const data = mkdtempSync(join(tmpdir(), 'bench-'));

/** A WAV file of 16 bits on disk: the same bytes of sound, again and again. */
function wavOf(name, channels, sound, times = 1) {
  const path = join(data, name);
  const file = openSync(path, 'w');
  writeSync(file, wavHead(RATE, channels, times * sound.length));
  for (let i = 0; i < times; i++) writeSync(file, sound);
  closeSync(file);
  return path;
}

/** A stereo WAV file of so many seconds: one of tones and noise, again and again. */
function wavFile(name, seconds) {
  const second = Buffer.alloc(RATE * 4);
  for (let i = 0; i < RATE; i++) {
    const value = 0.3 * Math.sin(i / 17) * Math.sin(i / 9000) + 0.02 * (Math.random() - 0.5);
    second.writeInt16LE(Math.round(value * 32_767), i * 4);
    second.writeInt16LE(Math.round(value * 20_000), i * 4 + 2);
  }
  return wavOf(name, 2, second, seconds);
}

const server = await startServer();
const { url } = server;
const browser = await chromium.launch(chromiumOptions);
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto('about:blank');
const empty = await memory();
const isCurrent = () => page.locator('[data-testid=result-lane][data-current=true]').waitFor({ timeout: 120_000 });

async function drop(device, path, title) {
  await page.goto(url);
  await page.getByRole('radio', { name: device, exact: true }).click();
  await page.getByLabel('Audio files').setInputFiles(path);
  await page.getByRole('img', { name: new RegExp(`^Waveform of ${title}`) }).waitFor({ timeout: 300_000 });
  await isCurrent();
}

/** Pictures a second while the end of the cut is dragged to and fro for some seconds; milliseconds from letting go to what belongs to it. */
async function framesWhileDragging() {
  const handle = await page.getByRole('slider', { name: 'End of the cut' }).boundingBox();
  const from = handle.x + handle.width / 2;
  const y = handle.y + 20;
  await page.mouse.move(from, y);
  await page.mouse.down();
  await page.evaluate(() => {
    window.drawn = [];
    const note = (time) => {
      window.drawn.push(time);
      window.watch = requestAnimationFrame(note);
    };
    requestAnimationFrame(note);
  });
  for (let step = 0; step < 240; step++) await page.mouse.move(from - 120 * Math.abs(Math.sin(step / 20)), y);
  const times = await page.evaluate(() => {
    cancelAnimationFrame(window.watch);
    return window.drawn;
  });
  const released = performance.now();
  await page.mouse.up();
  await isCurrent();
  const after = performance.now() - released;
  const gaps = times.slice(1).map((time, i) => time - times[i]);
  return {
    rate: (1000 * gaps.length) / (times.at(-1) - times[0]),
    worst: gaps.sort((a, b) => a - b)[Math.floor(gaps.length * 0.95)],
    after,
  };
}

/** Milliseconds from a key on the end of the cut to the result, or to the piece of it, that belongs to it. */
async function change(key) {
  await page.getByRole('slider', { name: 'End of the cut' }).focus();
  return page.evaluate(async (key) => {
    const lane = document.querySelector('[data-testid=result-lane]');
    const started = performance.now();
    const changed = new Promise((resolve) => {
      const observer = new MutationObserver(() => {
        if (lane.dataset.current !== 'true') return;
        observer.disconnect();
        resolve(performance.now() - started);
      });
      observer.observe(lane, { attributes: true, attributeFilter: ['data-current'] });
    });
    document.activeElement.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    return changed;
  }, key);
}

/** Milliseconds from a key to the first sound that is scheduled. */
async function playing() {
  await page.evaluate(() => {
    const { start } = AudioBufferSourceNode.prototype;
    window.sounded = new Promise((resolve) => {
      AudioBufferSourceNode.prototype.start = function (...when) {
        AudioBufferSourceNode.prototype.start = start;
        resolve(performance.now());
        return start.apply(this, when);
      };
    });
    window.pressed = performance.now();
    document.querySelector('button[aria-label=Play]').click();
  });
  const took = await page.evaluate(async () => (await window.sounded) - window.pressed);
  await page.locator('body').press('Space');
  return took;
}

/**
 * Milliseconds from a key that switches between source and result, which differ in their level alone, until the other is what comes
 * out; and by how many frames of a tone the two are apart.
 */
async function switching() {
  await page.addInitScript(() => {
    const { connect } = AudioNode.prototype;
    AudioNode.prototype.connect = function (...to) {
      if (to[0] instanceof AudioDestinationNode) {
        // Remembers what came out last.
        window.heard = new AnalyserNode(this.context, { fftSize: 32_768 });
        connect.call(this, window.heard);
      }
      return connect.apply(this, to);
    };
  });
  const tone = Buffer.alloc(2 * RATE * 20);
  for (let i = 0; i < RATE * 20; i++)
    tone.writeInt16LE(Math.round(16_000 * Math.sin((2 * Math.PI * TONE * i) / RATE)), 2 * i);
  await drop('Archive copy', wavOf('tone.wav', 1, tone), 'tone');
  await page.locator('body').press('4');
  await page.getByRole('radio', { name: 'To a peak', exact: true }).click();
  const goal = page.getByRole('textbox', { name: 'Goal' });
  await goal.fill('-20');
  await goal.press('Enter');
  await isCurrent();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForTimeout(1000);
  const took = [];
  const apart = [];
  for (let run = 0; run < 2 * RUNS; run++) {
    const { at, from, out } = await page.evaluate(
      async (key) => {
        const { context, fftSize } = window.heard;
        await new Promise((resolve) => setTimeout(resolve, 500));
        const at = context.currentTime;
        const code = `Key${key.toUpperCase()}`;
        document.body.dispatchEvent(new KeyboardEvent('keydown', { key, code, bubbles: true }));
        await new Promise((resolve) => setTimeout(resolve, 200));
        const out = new Float32Array(fftSize);
        window.heard.getFloatTimeDomainData(out);
        return { at, from: context.currentTime - fftSize / context.sampleRate, out: [...out] };
      },
      run % 2 ? 'r' : 's',
    );
    const strength = (i) => Math.hypot(out[i], out[i + QUARTER]);
    const [before, after] = [strength(0), strength(out.length - QUARTER - 1)];
    if (Math.abs(after - before) < 0.1) throw new Error('nothing was switched');
    let changed = out.length - QUARTER - 1;
    while (changed > 0 && Math.abs(strength(changed) - after) < 0.05 * Math.abs(after - before)) changed--;
    took.push(1000 * (from + changed / RATE - at));
    const shift =
      phaseOf(out.slice(-TURN)) - phaseOf(out.slice(0, TURN)) - (2 * Math.PI * TONE * (out.length - TURN)) / RATE;
    apart.push(Math.abs(Math.atan2(Math.sin(shift), Math.cos(shift))) * (RATE / (2 * Math.PI * TONE)));
  }
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  return { took, apart };
}

/** Phase of the tone at the beginning of samples that are whole turns of it. */
function phaseOf(samples) {
  let [sine, cosine] = [0, 0];
  for (const [i, value] of samples.entries()) {
    sine += value * Math.sin((2 * Math.PI * TONE * i) / RATE);
    cosine += value * Math.cos((2 * Math.PI * TONE * i) / RATE);
  }
  return Math.atan2(cosine, sine);
}

/** Bytes of memory that the page's process holds, with the browser's own code. */
async function memory() {
  const session = await browser.newBrowserCDPSession();
  const { processInfo } = await session.send('SystemInfo.getProcessInfo');
  const sizes = processInfo
    .filter(({ type }) => type === 'renderer')
    .map(({ id }) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1] ?? 0) * 1024);
  return Math.max(...sizes);
}

const rows = [];
const fps = ({ rate, worst }) => `${rate.toFixed(0)} a second, 95 % within ${worst.toFixed(0)} ms`;

// A clip of ten seconds.
await drop('Desk phone ring tone', wavFile('ten.wav', 10), 'ten');
rows.push(['a cut handle is dragged: a clip of 10 s', fps(await framesWhileDragging()), '50 a second']);
const phone = [];
for (let run = 0; run < 2 * RUNS; run++) phone.push(await change(run % 2 ? 'ArrowRight' : 'ArrowLeft'));
rows.push(['a change to its result, mu-law, 10 s, ms', spread(phone), '50']);
await drop('Microcontroller, 8-bit DAC', join(data, 'ten.wav'), 'ten');
const board = [];
for (let run = 0; run < 2 * RUNS; run++) board.push(await change(run % 2 ? 'ArrowRight' : 'ArrowLeft'));
rows.push(['a change to its result, C header, 10 s, ms', spread(board), '80']);

// Jobs of many clips.
const sources = await (
  await page.request.get(`${url}/api/sources/list?search=&filter=all&order=name&descending=false`)
).json();
const [source] = sources.ids;
async function manyClips(count) {
  const sheet = 'desk-phone-ring-tone';
  const job = await (await page.request.post(`${url}/api/jobs`, { data: { title: `${count} clips`, sheet } })).json();
  const clips = Array.from({ length: count }, (_, i) => ({
    name: `Clip ${i + 1}`,
    pieces: [{ source, cut: { start: 100 * (i % 50), end: 80_000 }, gapMs: 0 }],
  }));
  for (let at = 0; at < count; at += 200) {
    await page.request.post(`${url}/api/jobs/${job.id}/clips`, { data: { clips: clips.slice(at, at + 200) } });
  }
  return job.id;
}
const many = await manyClips(1000);
await manyClips(200);
await page.goto(`${url}/jobs/${many}`);
await isCurrent();
rows.push(['the same: a job of 1 000 clips', fps(await framesWhileDragging()), '50 a second']);
const opens = [];
for (let run = 0; run < RUNS; run++) {
  await page.goto(url);
  const link = page.getByRole('link', { name: '200 clips', exact: true });
  await link.waitFor();
  opens.push(
    await page.evaluate(async () => {
      const started = performance.now();
      [...document.querySelectorAll('a')].find(({ textContent }) => textContent === '200 clips').click();
      await new Promise((resolve) => {
        const look = () =>
          document.querySelector('[data-testid=result-lane][data-current=true]')
            ? resolve()
            : requestAnimationFrame(look);
        look();
      });
      return performance.now() - started;
    }),
  );
}
rows.push(['a job of 200 clips, from the click to its first result, ms', spread(opens), '1 000']);

// An hour, and two.
await drop('Portable player', wavFile('hour.wav', 3600), 'hour');
const pieces = [];
for (let run = 0; run < RUNS; run++) pieces.push(await change(run % 2 ? 'ArrowRight' : 'ArrowLeft'));
rows.push(['a change to the piece around the playhead: an hour to MP3, ms', spread(pieces), '500']);
await drop('Portable player', wavFile('two-hours.wav', 7200), 'two');
const drags = [];
for (let run = 0; run < 3; run++) drags.push(await framesWhileDragging());
rows.push(['a cut handle is dragged: a source of 2 hours', fps(drags[0]), '50 a second']);
rows.push(['from letting go of it to its piece, to MP3, ms', spread(drags.map(({ after }) => after)), '500']);
const box = await page.getByRole('img', { name: /^Waveform of two/ }).boundingBox();
const plays = [];
for (let run = 0; run < RUNS; run++) {
  await page.mouse.click(box.x + box.width * (0.1 + 0.11 * run), box.y + box.height / 2);
  plays.push(await playing());
}
rows.push(['playing starts, anywhere in it, ms', spread(plays), '300']);
rows.push([
  'memory of the page afterwards, beyond that of an empty page, MB',
  (((await memory()) - empty) / 1e6).toFixed(0),
  '400',
]);

const { took, apart } = await switching();
rows.push(['switching between source and result: from the key to the sound, ms', spread(took), '30']);
rows.push(['source and result apart, frames', Math.max(...apart).toFixed(2), 'less than half']);

await browser.close();
await server.stop();
rmSync(data, { recursive: true, force: true });

writeSection(
  'lanes',
  `## How the bench follows a hand

Made by \`npm run bench:lanes\` on ${machine}, headless Chromium, which draws at most 60 pictures a second. Milliseconds: median (least to most). An empty page's process takes ${(empty / 1e6).toFixed(0)} MB.

| what | measured | goal |
|---|---|---|
${rows.map((row) => `| ${row.join(' | ')} |`).join('\n')}`,
);
