// A built Tambur with a data folder of its own, or that of one before, for benchmarks and pictures.
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export async function startServer(data = mkdtempSync(join(tmpdir(), 'bench-')), { isEmpty = true } = {}) {
  // The server itself, not the shell around it: its memory is measured.
  const more = isEmpty ? ['--empty'] : [];
  const child = spawn('node', ['build/server/main.js', '--port', '0', '--data', data, ...more], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  // Whatever ends this process, it does not stay behind.
  process.once('exit', () => child.kill());
  const url = await new Promise((resolve, reject) => {
    child.stdout.on('data', (chunk) => {
      const address = /at (http:\S+)/.exec(chunk)?.[1];
      if (address) resolve(address);
    });
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  return {
    url,
    data,
    /** Largest resident memory so far, in MB. */
    mostMemory: () => Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))[1]) / 1000,
    /** Ends it; its data folder goes, unless it is to be used again. */
    async stop({ keepsData = false } = {}) {
      child.removeAllListeners('exit');
      const ended = new Promise((resolve) => child.once('exit', resolve));
      child.kill();
      await ended;
      if (!keepsData) rmSync(data, { recursive: true, force: true });
    },
  };
}

export const chromiumOptions = {
  executablePath: '/usr/bin/chromium-headless-shell',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'],
};
