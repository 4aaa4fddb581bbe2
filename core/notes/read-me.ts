import { findOutContainer } from '../containers/index.ts';
import { placeWords } from '../delivery/index.ts';
import type { DeliveryRecord } from '../documents/index.ts';
import { nameIn } from '../standin/index.ts';
import { type Asking, askedBy, demandsOf } from '../targets/index.ts';
import { formatBytes, formatSeconds, shortened } from '../words/index.ts';
import { foldersOf, soundsOf } from './files.ts';

/** Its name on the card. */
export const READ_ME = 'READ-ME.txt';

/** True if a device does not mind a READ-ME beside its sounds. */
export const bearsReadMe = (sheet: Asking): boolean =>
  askedBy(sheet).every((requirement) => requirement.kind !== 'nothing-else' || requirement.but?.includes(READ_ME));

/** True if the files are compiled into a program, and there is no card. */
const isCompiled = ({ artifacts }: Pick<DeliveryRecord, 'artifacts'>): boolean =>
  artifacts.some(({ parts }) =>
    parts.some(({ facts }) => findOutContainer(facts.array ?? facts.container)?.textOptions),
  );

const titled = (text: string) => [text, '-'.repeat(text.length)];

/** Texts in columns that are as wide as they have to be. */
function columns(rows: readonly (readonly string[])[]): string[] {
  const widths = rows[0]?.map((_, at) => Math.max(...rows.map((cells) => cells[at]?.length ?? 0))) ?? [];
  return rows.map((cells) => `  ${cells.map((cell, at) => cell.padEnd(widths[at] ?? 0)).join('  ')}`.trimEnd());
}

/** What has to be done with the files, one sentence each, by what the sheet says of the device. */
function steps(record: DeliveryRecord): string[] {
  const { sheet, artifacts } = record;
  if (isCompiled(record)) {
    return [
      'Add these files to the sources of the program, include or import them where the sounds are used, and build it.',
      'Write the program to the device, and restart it.',
    ];
  }
  const folders = foldersOf(record).filter((folder) => folder !== '');
  const { order } = sheet.player;
  const lists = artifacts.filter(({ role }) => role === 'list').map(({ path }) => path);
  const isAlone = askedBy(sheet).some(({ kind }) => kind === 'nothing-else');
  return [
    folders.length
      ? `Copy everything to the top of the card, so that ${folders.join(', ')} ${folders.length === 1 ? 'stands' : 'stand'} there.`
      : 'Copy the files to the top of the card, not into a folder.',
    ...(order === 'card'
      ? [
          'Copy them one by one, in the order of this list: the device plays them in the order in which they were copied.',
        ]
      : []),
    ...(order === 'name' ? ['Do not rename the files: the device finds them by their names.'] : []),
    ...(order === 'slot' ? ['Do not change the numbers in the names: the device finds the files by them.'] : []),
    ...(order === 'list'
      ? [`The device finds its sounds in ${lists.join(', ')}: copy ${lists.length === 1 ? 'it' : 'them'} too.`]
      : []),
    ...(isAlone ? ['Nothing else may be on the card: delete other files, hidden ones too.'] : []),
    ...(bearsReadMe(sheet) ? [] : [`Do not copy ${READ_ME} itself.`]),
    'Eject the card before you take it out, and restart the device with it.',
  ];
}

/** A short text that goes with a delivery: what is here, where each file goes, and what to do at the device. */
export function readMe(record: DeliveryRecord): string {
  const { job, sheet, artifacts } = record;
  const sounds = soundsOf(record);
  const lines = artifacts.map((artifact) => {
    const of = sounds.filter((sound) => sound.artifact === artifact);
    const [only] = of;
    const places = of.flatMap(({ slots }) => slots.flatMap((number) => placeWords(sheet, number) ?? []));
    const seconds = of.reduce((sum, { part }) => sum + part.facts.frames / part.facts.sampleRate, 0);
    const what =
      artifact.role === 'list' ? 'list of the sounds' : of.length === 1 ? (only?.clip.name ?? '') : 'all sounds';
    return [
      artifact.path,
      shortened(what, 60),
      places.length <= 3 ? places.join('; ') : `${places.length} places`,
      seconds > 0 ? formatSeconds(seconds) : '',
      formatBytes(artifact.bytes),
    ];
  });
  const { name } = demandsOf(sheet);
  const text = [
    ...titled(job.title),
    `For: ${sheet.name}`,
    '',
    'What is here:',
    ...columns(lines),
    '',
    'What to do:',
    ...steps(record).map((step, i) => `  ${i + 1}. ${step}`),
    ...(name?.value.digits && sheet.places
      ? ['', `File ${nameIn(artifacts[0]?.path ?? '')} is ${placeWords(sheet, sounds[0]?.slots[0] ?? 0)}.`]
      : []),
    '',
  ];
  // Read with whatever is there: lines end as every reader takes them.
  return text.join('\r\n').replaceAll('\u202f', ' ').replaceAll('\u2212', '-');
}
