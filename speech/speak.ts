import { ConsoleStdout, File, OpenFile, PreopenDirectory, WASI } from '@bjorn3/browser_wasi_shim';
import { InputError } from '@tambur/core';
import { plainLetters } from './letters.ts';
import { type Prompt, VOICES } from './manner.ts';

/**
 * Speaks a prompt; gives a WAV file. The synthesiser is a command line program, started again for each prompt; it reads
 * and writes files in memory alone.
 * @param synthesiser the program, compiled: whoever speaks knows where its file is
 * @throws InputError if the text holds nothing that can be spoken
 */
export async function speak(
  { text, voice, speed, pitch }: Prompt,
  synthesiser: WebAssembly.Module,
): Promise<Uint8Array<ArrayBuffer>> {
  const plain = plainLetters(text);
  if (!/[A-Za-z0-9]/.test(plain)) {
    throw new InputError(
      'bad-setting',
      `There is nothing to speak in "${text.slice(0, 40)}"; write it in Latin letters and digits.`,
    );
  }
  const { model } = VOICES.find(({ id }) => id === voice) ?? VOICES[0];
  const wav = new File([]);
  const words: string[] = [];
  const console = () => ConsoleStdout.lineBuffered((line) => words.push(line));
  const files = new Map([
    ['text', new File(new TextEncoder().encode(plain))],
    ['speech.wav', wav],
  ]);
  const manner = ['--setf', `duration_stretch=${1 / speed}`, '--setf', `f0_shift=${pitch}`];
  const args = ['flite', '-voice', model, ...manner, '-f', '/files/text', '-o', '/files/speech.wav'];
  const wasi = new WASI(
    args,
    [],
    [new OpenFile(new File([])), console(), console(), new PreopenDirectory('/files', files)],
    { debug: false },
  );
  const instance = await WebAssembly.instantiate(synthesiser, { wasi_snapshot_preview1: wasi.wasiImport });
  const code = wasi.start(instance as never);
  // The program puts its file there again.
  const made = files.get('speech.wav')?.data ?? wav.data;
  if (code !== 0) throw new Error(`the speech synthesiser ended with ${code}: ${words.join('; ')}`);
  return Uint8Array.from(made);
}
