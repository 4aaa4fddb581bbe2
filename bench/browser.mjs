// Times, in the built page, what a person waits for, and writes docs/performance.md. Run: npm run bench:browser
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { createMp3Encoder } from 'wasm-media-encoders';
import { machine, spread, writeSection } from './report.mjs';

const RUNS = 7;
const data = mkdtempSync(join(tmpdir(), 'bench-'));
/** Three minutes of stereo music-like sound as MP3; another seed gives other bytes, so that nothing is known already. */
async function threeMinutes(seed) {
  const encoder = await createMp3Encoder();
  encoder.configure({ sampleRate: 44_100, channels: 2, bitrate: 192 });
  const parts = [];
  for (let second = 0; second < 180; second++) {
    const channels = [0, 1].map((channel) =>
      Float32Array.from({ length: 44_100 }, (_, i) => {
        const t = second + i / 44_100;
        const note = 220 * 2 ** (((second * 7 + seed) % 12) / 12);
        return (
          0.3 * Math.sin(2 * Math.PI * note * t) +
          0.2 * Math.sin(2 * Math.PI * (note * 1.5 + channel) * t) +
          0.02 * (Math.random() - 0.5)
        );
      }),
    );
    parts.push(Buffer.from(encoder.encode(channels)));
  }
  parts.push(Buffer.from(encoder.finalize()));
  return Buffer.concat(parts);
}

function serve() {
  return new Promise((resolve, reject) => {
    const started = performance.now();
    const child = spawn('./start', ['--port', '0', '--data', data, '--empty'], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    child.stdout.on('data', (chunk) => {
      const url = /at (http:\S+)/.exec(chunk)?.[1];
      if (url) resolve({ child, url, took: performance.now() - started });
    });
    child.once('exit', (code) => reject(new Error(`ended with ${code}`)));
  });
}

const stop = (child) =>
  new Promise((resolve) => {
    child.removeAllListeners('exit');
    child.once('exit', resolve);
    child.kill();
  });

const starts = [];
for (let run = 0; run < RUNS; run++) {
  const { child, took } = await serve();
  starts.push(took);
  await stop(child);
}
const { child, url } = await serve();
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const current = page.locator('[data-testid=result-lane][data-current=true]');

/** From the drop to the first drawn waveform of the source. */
const drops = [];
for (let run = 0; run < RUNS; run++) {
  const buffer = await threeMinutes(run);
  await page.goto(url);
  await page.getByRole('button', { name: 'Start without audio' }).click();
  await page.getByRole('button', { name: 'Build set' }).waitFor();
  await page.evaluate(() => {
    window.drawn = new Promise((resolve) => {
      const look = () => {
        const canvas = document.querySelector('canvas');
        const pixels = canvas?.width
          ? canvas.getContext('2d').getImageData(0, canvas.height / 4, canvas.width, 1).data
          : [];
        // The waveform is drawn in ink over a light ground.
        let dark = 0;
        for (let i = 0; i < pixels.length; i += 4) if (pixels[i] < 100 && pixels[i + 3] === 255) dark++;
        if (dark > 20) resolve(performance.now());
        else requestAnimationFrame(look);
      };
      look();
    });
    window.dropped = new Promise((resolve) => {
      document
        .querySelector('input[type=file]')
        .addEventListener('change', () => resolve(performance.now()), { capture: true });
    });
  });
  await page.getByLabel('Audio files').setInputFiles({ name: `tune-${run}.mp3`, mimeType: 'audio/mpeg', buffer });
  drops.push(await page.evaluate(async () => (await window.drawn) - (await window.dropped)));
}

/** From the move of a cut handle of a 10 s clip to the drawn result with its findings. */
async function moves(device) {
  const times = [];
  await page.goto(url);
  await page.getByRole('radio', { name: device }).click();
  await page
    .getByLabel('Audio files')
    .setInputFiles({ name: 'tune.mp3', mimeType: 'audio/mpeg', buffer: await threeMinutes(0) });
  await page.getByLabel('End, seconds').fill('40');
  await page.getByLabel('End, seconds').press('Enter');
  await page.getByLabel('Start, seconds').fill('30');
  await page.getByLabel('Start, seconds').press('Enter');
  await current.waitFor();
  await page.getByRole('slider', { name: 'End of the cut' }).focus();
  for (let run = 0; run < 4 * RUNS; run++) {
    await page.waitForTimeout(400);
    times.push(
      await page.evaluate(
        async (key) => {
          const lane = document.querySelector('[data-testid=result-lane]');
          const started = performance.now();
          document.activeElement.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
          await new Promise((resolve) => {
            const look = () =>
              lane.dataset.current === 'true' && lane.dataset.moved ? resolve() : requestAnimationFrame(look);
            const observer = new MutationObserver(() => {
              lane.dataset.moved = 'yes';
              observer.disconnect();
            });
            observer.observe(lane, { attributes: true, attributeFilter: ['data-current'] });
            look();
          });
          delete lane.dataset.moved;
          return performance.now() - started;
        },
        run % 2 ? 'ArrowRight' : 'ArrowLeft',
      ),
    );
  }
  return times;
}
const phone = await moves('Desk phone ring tone');
const board = await moves('Microcontroller, 8-bit DAC');
await browser.close();
await stop(child);
rmSync(data, { recursive: true, force: true });

writeSection(
  'browser',
  `## What a person waits for

Made by \`npm run bench:browser\` on ${machine}, headless Chromium. Milliseconds: median (least to most).

| what a person waits for | runs | ms | goal |
|---|---|---|---|
| \`./start\` to the printed address, nothing changed | ${starts.length} | ${spread(starts)} | 2 000 |
| a 3-minute stereo MP3 dropped on a job, to its drawn waveform | ${drops.length} | ${spread(drops)} | 4 000 |
| a cut handle of a 10 s clip moved, to the result lane and findings: 44 100 to 8 000 Hz, mu-law | ${phone.length} | ${spread(phone)} | 150 |
| the same, 44 100 to 16 000 Hz, 8-bit C header | ${board.length} | ${spread(board)} | 150 |
`,
);
