import { InputError } from '@tambur/core';
import { Threads } from '../threads.ts';
import { plainLetters } from './letters.ts';
import { type Manner, voices } from './voices.ts';
import type { SpeechTask } from './worker.ts';

/** Speaks prompts in a thread of its own. */
export class Speaker {
  private readonly threads: Threads<SpeechTask, Uint8Array<ArrayBuffer>>;

  constructor(workerFile: string) {
    this.threads = new Threads(workerFile, { most: 1, megabytes: 512 });
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
    return this.threads.run(task, signal ? { signal } : {});
  }

  async close(): Promise<void> {
    await this.threads.close();
  }
}
