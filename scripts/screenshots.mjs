// Takes the pictures of docs/screenshots from the demo data. Run: npm run screenshots
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';

const data = mkdtempSync(join(tmpdir(), 'pictures-'));
const child = spawn('./start', ['--port', '0', '--data', data], { stdio: ['ignore', 'pipe', 'inherit'] });
const url = await new Promise((resolve, reject) => {
  child.stdout.on('data', (chunk) => {
    const address = /at (http:\S+)/.exec(chunk)?.[1];
    if (address) resolve(address);
  });
  child.once('exit', (code) => reject(new Error(`ended with ${code}`)));
});
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'],
});

async function picture(name, { width = 1280, height = 800, dark = false }, go) {
  const page = await browser.newPage({ viewport: { width, height }, colorScheme: dark ? 'dark' : 'light' });
  await page.goto(url);
  await page.getByRole('heading', { name: 'Start a job' }).waitFor();
  await go(page);
  await page.evaluate(() => document.activeElement?.blur());
  await page.waitForTimeout(700);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
  await page.close();
}

const open = async (page, job, clip) => {
  await page.getByRole('link', { name: job }).click();
  await page.getByRole('button', { name: new RegExp(`^\\d+ ${clip}`) }).click();
  await page.locator('[data-testid=result-lane][data-current=true]').waitFor();
};

await picture('bench', {}, (page) => open(page, 'Cabin panel', 'Doors closing'));
await picture('bench-dark', { dark: true }, async (page) => {
  await open(page, 'Station desk phones', 'Summit tune');
  await page.locator('body').press('3');
});
await picture('bench-narrow', { width: 390, height: 1100 }, (page) => open(page, 'Cabin panel', 'Departure chime'));
await picture('delivery', {}, async (page) => {
  await open(page, 'Cabin panel', 'Doors closing');
  await page.getByRole('button', { name: 'Build set' }).click();
  await page.getByRole('link', { name: /Download the set/ }).waitFor();
  await page.locator('summary').first().click();
});
await picture('jobs', {}, async () => {});

await browser.close();
child.removeAllListeners('exit');
child.kill();
rmSync(data, { recursive: true, force: true });
