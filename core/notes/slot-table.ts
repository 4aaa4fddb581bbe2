import { isPlace, placeWords } from '../delivery/index.ts';
import type { DeliveryRecord } from '../documents/index.ts';
import { csvText, LARGEST_LIST, parseCsv } from '../lists/index.ts';
import { nameIn } from '../standin/index.ts';
import type { Target } from '../targets/index.ts';
import { formatBytes, InputError } from '../words/index.ts';
import { soundsOf } from './files.ts';

/** A line of the table by which a device is set up by hand. */
export interface SlotLine {
  readonly number: number;
  /** Of the clip, for people. */
  readonly sound: string;
  readonly file: string;
  readonly seconds: number;
  readonly bytes: number;
}

/** The lines of a delivery, in the order of the places. */
export const slotLinesOf = (record: DeliveryRecord): readonly SlotLine[] =>
  soundsOf(record)
    .flatMap(({ clip, artifact, part, slots }) =>
      slots.map((number) => ({
        number,
        sound: clip.name,
        file: nameIn(artifact.path),
        seconds: part.facts.frames / part.facts.sampleRate,
        bytes: part.length,
      })),
    )
    .sort((a, b) => a.number - b.number);

/** What plays where, as CSV (RFC 4180). */
export function slotTableCsv(target: Pick<Target, 'places'>, lines: readonly SlotLine[]): string {
  const { places } = target;
  const word = places?.words[0] ?? 'number';
  return csvText([
    [word, 'label', 'sound', 'file', 'seconds', 'bytes', 'remark'],
    ...lines.map(({ number, sound, file, seconds, bytes }) => [
      String(number),
      places?.labels[number] ?? '',
      sound,
      file,
      seconds.toFixed(3),
      String(bytes),
      isPlace(target, number) ? '' : `the device has no ${placeWords(target, number)}`,
    ]),
  ]);
}

/** A line of a table that says what plays where. */
export interface SlotEntry {
  readonly number: number;
  /** All else that the line says: one of its cells names the sound. */
  readonly cells: readonly string[];
}

/**
 * A slot table from anywhere: CSV whose first column has the numbers. A first line without a number is its header.
 * @param name what the table is called, for refusals
 * @throws InputError with code `bad-setting` naming the line
 */
export function readSlotTable(text: string, name: string): readonly SlotEntry[] {
  if (text.length > LARGEST_LIST) {
    throw new InputError(
      'bad-setting',
      `${name} is larger than ${formatBytes(LARGEST_LIST)}; keep the lines that this set needs.`,
    );
  }
  const isNumber = (cell = '') => /^\d{1,6}$/.test(cell.trim());
  const rows = parseCsv(text);
  const entries = isNumber(rows[0]?.[0]) ? rows : rows.slice(1);
  const seen = new Set<number>();
  return entries.map(([number = '', ...cells], i) => {
    const line = i + 1 + rows.length - entries.length;
    const bad = (what: string) =>
      new InputError(
        'bad-setting',
        `${name}, line ${line}: ${what}; write a number and the name of a sound in each line.`,
      );
    if (!isNumber(number)) throw bad('it does not begin with a number');
    if (seen.has(Number(number))) throw bad(`number ${Number(number)} occurs twice`);
    seen.add(Number(number));
    return { number: Number(number), cells: cells.map((cell) => cell.trim()).filter((cell) => cell !== '') };
  });
}
