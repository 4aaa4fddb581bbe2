import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base } from '@playwright/test';

/** A Tambur of its own: its port, its data folder, its process. */
export class Server {
  readonly data: string;
  url = '';
  /** What it printed since its last start. */
  output = '';
  private process: ChildProcess | undefined;
  private readonly options: readonly string[];
  private readonly env: NodeJS.ProcessEnv;

  constructor(options: readonly string[] = [], env: NodeJS.ProcessEnv = {}) {
    this.data = mkdtempSync(join(tmpdir(), 'tambur-test-'));
    this.options = options;
    this.env = env;
  }

  /** Starts and waits until it answers. */
  async start(): Promise<void> {
    this.output = '';
    const child = spawn('./start', ['--port', '0', '--data', this.data, ...this.options], {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, ...this.env },
    });
    this.process = child;
    this.url = await new Promise((resolve, reject) => {
      const read = (chunk: Buffer) => {
        this.output += chunk;
        const address = /at (http:\/\/127\.0\.0\.1:\d+)/.exec(this.output);
        if (address) resolve(address[1]);
      };
      child.stdout.on('data', read);
      child.stderr.on('data', read);
      child.once('exit', (code) => reject(new Error(`the server ended with ${code}: ${this.output}`)));
    });
  }

  /** Ends it, kindly or with SIGKILL, and waits until it is gone. */
  async stop(signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): Promise<void> {
    const child = this.process;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await gone;
  }

  remove(): void {
    rmSync(this.data, { recursive: true, force: true });
  }
}

/** A test with a server of its own that holds the demo data, shared by the tests of one worker. */
export const test = base.extend<object, { server: Server }>({
  server: [
    // biome-ignore lint/correctness/noEmptyPattern: fixtures are declared by their parameters
    async ({}, use) => {
      const server = new Server();
      await server.start();
      await use(server);
      await server.stop();
      server.remove();
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ server }, use) => use(server.url),
});

export { expect } from '@playwright/test';
