import { InputError } from '@tambur/core';
import type { Prompt } from '@tambur/speech';
import { Threads } from '../work/threads.ts';
import type { SpeechOutcome } from './worker.ts';

/** Speaks prompts in a thread of its own. */
export class Speaker {
  private readonly threads: Threads<Prompt, SpeechOutcome>;

  constructor(workerFile: string) {
    this.threads = new Threads(workerFile, { most: 1, megabytes: 512 });
  }

  /**
   * A WAV file with the text, spoken.
   * @throws InputError if the text holds nothing that can be spoken
   */
  async speak(prompt: Prompt, signal?: AbortSignal): Promise<Uint8Array<ArrayBuffer>> {
    const outcome = await this.threads.run(prompt, signal ? { signal } : {});
    if ('refused' in outcome) throw new InputError('bad-setting', outcome.refused);
    return outcome.wav;
  }

  async close(): Promise<void> {
    await this.threads.close();
  }
}
