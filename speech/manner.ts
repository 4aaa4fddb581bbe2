import { type NumberRange, within } from '@tambur/core';
import * as v from 'valibot';

/** A voice of the synthesiser. */
export interface Voice {
  readonly id: string;
  /** For people. */
  readonly title: string;
  /** The synthesiser's own name for it. */
  readonly model: string;
}

/** Voices that follow both speed and pitch. */
export const VOICES: readonly [Voice, ...Voice[]] = [
  { id: 'woman', title: 'Woman, American English', model: 'slt' },
  { id: 'man', title: 'Man, Scottish English', model: 'awb' },
  { id: 'plain', title: 'Plain machine voice', model: 'kal16' },
];

/** 1 is the voice's own speed, 2 twice as fast. */
export const SPEED_RANGE: NumberRange = { least: 0.5, most: 2 };
/** 1 is the voice's own pitch, 2 an octave higher. */
export const PITCH_RANGE: NumberRange = { least: 0.6, most: 1.8 };
/** Characters. */
export const LONGEST_PROMPT = 1000;

/** How something is spoken. */
export interface Manner {
  readonly voice: string;
  readonly speed: number;
  readonly pitch: number;
}

export const USUAL_MANNER: Manner = { voice: VOICES[0].id, speed: 1, pitch: 1 };

/** What is to be spoken, and how. */
export interface Prompt extends Manner {
  readonly text: string;
}

/** What is to be spoken, as it comes from anywhere. */
export const promptSchema: v.GenericSchema<unknown, Prompt> = v.object({
  text: v.pipe(v.string(), v.trim(), v.nonEmpty('there is nothing to speak'), v.maxLength(LONGEST_PROMPT)),
  voice: v.picklist(VOICES.map(({ id }) => id)),
  speed: within(SPEED_RANGE),
  pitch: within(PITCH_RANGE),
});
