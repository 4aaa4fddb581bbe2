/** A4, Hz (ISO 16). */
const A4 = 440;
const NAMES = ['C', 'C♯', 'D', 'D♯', 'E', 'F', 'F♯', 'G', 'G♯', 'A', 'A♯', 'B'] as const;

/** The nearest note of equal temperament and what is missing to it, in cents: "A4 +12"; of 0 Hz there is none. */
export function noteOf(hz: number): string | null {
  if (!(hz > 0)) return null;
  const semitones = 12 * Math.log2(hz / A4);
  const nearest = Math.round(semitones);
  const cents = Math.round(100 * (semitones - nearest));
  // A is the tenth of the octave that begins with C.
  const place = nearest + 9;
  const name = NAMES[((place % 12) + 12) % 12];
  const sign = cents < 0 ? '\u2212' : '+';
  return `${name}${4 + Math.floor(place / 12)}${cents === 0 ? '' : ` ${sign}${Math.abs(cents)}`}`;
}
