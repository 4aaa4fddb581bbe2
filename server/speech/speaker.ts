import { InputError } from '@tambur/core';
import { Tinypool } from 'tinypool';
import { plainLetters } from './letters.ts';
import { type Manner, voices } from './voices.ts';
import type { SpeechTask } from './worker.ts';

/** Speaks prompts in a thread of its own. */
export class Speaker {
  private readonly pool: Tinypool;

  constructor(workerFile: string) {
    this.pool = new Tinypool({ filename: workerFile, minThreads: 0, maxThreads: 1, idleTimeout: 60_000 });
  }

  /**
   * A WAV file with the text, spoken.
   * @throws InputError where the text holds nothing that can be spoken
   */
  async speak(text: string, { voice, speed, pitch }: Manner, signal?: AbortSignal): Promise<Uint8Array<ArrayBuffer>> {
    const model = (voices.find(({ id }) => id === voice) ?? voices[0]).model;
    const plain = plainLetters(text);
    if (!/[A-Za-z0-9]/.test(plain)) {
      throw new InputError(
        'bad-setting',
        `There is nothing to speak in "${text.slice(0, 40)}"; write it in Latin letters and digits.`,
      );
    }
    const task: SpeechTask = { text: plain, model, speed, pitch };
    return this.pool.run(task, signal ? { signal } : {});
  }

  async close(): Promise<void> {
    await this.pool.destroy();
  }
}
