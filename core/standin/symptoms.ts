/** What a person hears or sees when a file does not suit the device. */
export interface Symptom {
  /** Stable name: on the command line and in links. */
  readonly id: SymptomId;
  /** As one says it. */
  readonly title: string;
  readonly kind: 'seen' | 'heard';
}

/** Every symptom, in the order in which one looks for them: what is seen, then what is heard. A new one: its line here. */
const SEEN = {
  'not-listed': 'It is not in the list',
  refused: 'It is listed, but refused',
  'name-wrong': 'Its name is wrong',
  'wrong-sound': 'A number plays the wrong sound',
  'old-sound': 'The old sound is still there',
  'others-vanished': 'Other sounds have vanished',
  'opens-as-text': 'It opens as text',
} as const;

const HEARD = {
  silence: 'Nothing is heard',
  'too-slow': 'Too slow and too low',
  'too-fast': 'Too fast and too high',
  garbled: 'Hiss or garble all over',
  'garbled-in-rhythm': 'Hiss or garble, but in the right rhythm',
  harsh: 'Harsh and distorted',
  'click-at-start': 'A click or burst at the start',
  'gap-at-end': 'A gap or garbage at the end, or of each round',
  'start-missing': 'Starts late, or the start is missing',
  'cut-off': 'Cut off early',
  'stops-when-let-go': 'Stops when I let go',
  'pitch-by-strike': 'Pitch changes with the strike',
  'too-quiet': 'Too quiet',
  thin: 'Thin or hollow',
  dull: 'Dull',
  'one-side': 'Only on one side',
} as const;

export type SymptomId = keyof typeof SEEN | keyof typeof HEARD;

const listed = (words: Readonly<Partial<Record<SymptomId, string>>>, kind: Symptom['kind']): readonly Symptom[] =>
  Object.entries(words).map(([id, title]) => ({ id: id as SymptomId, title, kind }));

export const symptoms: readonly Symptom[] = [...listed(SEEN, 'seen'), ...listed(HEARD, 'heard')];
