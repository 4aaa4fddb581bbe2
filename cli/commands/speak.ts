import { join } from 'node:path';
import { InputError, shortened } from '@tambur/core';
import { synthesiser } from '@tambur/disk';
import { type Manner, nameOfPrompt, promptSchema, promptsOf, speak, USUAL_MANNER, VOICES } from '@tambur/speech';
import type { Command } from 'commander';
import * as v from 'valibot';
import type { Context } from '../command.ts';
import { EXIT } from '../exit.ts';
import { writeBytes } from '../files.ts';
import { eachFile, type Format, json, type Output } from '../output.ts';

export interface SpeakOptions extends Format, Partial<Manner> {
  readonly out: string;
}

/** Speaks prompts, each into a WAV file that is named after its words. */
export async function speakPrompts(
  output: Output,
  texts: readonly string[],
  { out, json: asJson, debug, voice, speed, pitch }: SpeakOptions,
): Promise<number> {
  const manner = Object.entries({ voice, speed, pitch }).filter(([, value]) => value !== undefined);
  const { results, trouble } = await eachFile(texts.flatMap(promptsOf), output, { debug }, async (text) => {
    const prompt = v.safeParse(promptSchema, { ...USUAL_MANNER, ...Object.fromEntries(manner), text });
    if (!prompt.success) {
      const [{ path, message }] = prompt.issues;
      const what = path?.map(({ key }) => String(key)).join('.') ?? 'prompt';
      throw new InputError('bad-setting', `${shortened(text, 40)}: ${what}: ${message}; choose another value.`);
    }
    const wav = await speak(prompt.output, await synthesiser());
    return { text, file: await writeBytes(join(out, nameOfPrompt(text)), wav) };
  });
  if (asJson) output.data(json(results));
  else for (const { file } of results) output.data(file);
  return trouble ?? EXIT.met;
}

export const define = (command: Command, { output, isDebugging, exitWith }: Context): Command =>
  command
    .argument('<text...>')
    .requiredOption('--out <dir>', 'folder to write into')
    .option('--voice <id>', `one of: ${VOICES.map(({ id }) => id).join(', ')}`)
    .option('--speed <factor>', "1 is the voice's own", Number)
    .option('--pitch <factor>', "1 is the voice's own", Number)
    .option('--json', 'print JSON')
    .action(async (texts: string[], options) =>
      exitWith(await speakPrompts(output, texts, { ...options, debug: isDebugging() })),
    );
