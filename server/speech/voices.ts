/** A voice of the synthesiser. */
export interface Voice {
  readonly id: string;
  /** For people. */
  readonly title: string;
  /** The synthesiser's own name for it. */
  readonly model: string;
}

/** Voices that follow both speed and pitch. */
export const voices: readonly [Voice, ...Voice[]] = [
  { id: 'woman', title: 'Woman, American English', model: 'slt' },
  { id: 'man', title: 'Man, Scottish English', model: 'awb' },
  { id: 'plain', title: 'Plain machine voice', model: 'kal16' },
];

/** How something is spoken. */
export interface Manner {
  readonly voice: string;
  /** 1 is the voice's own speed, 2 twice as fast. */
  readonly speed: number;
  /** 1 is the voice's own pitch, 2 an octave higher. */
  readonly pitch: number;
}

export const LONGEST_PROMPT = 1000;
export const SPEEDS = { min: 0.5, max: 2 } as const;
export const PITCHES = { min: 0.6, max: 1.8 } as const;
