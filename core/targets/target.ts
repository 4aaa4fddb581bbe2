import * as v from 'valibot';
import { hertz, InputError, shortened } from '../audio/index.ts';
import { findOutContainer, type Reading } from '../containers/index.ts';
import { type Demands, kindOf, type Requirement, requirementKinds, requirementSchema } from './requirements/index.ts';
import { unwritable } from './writable.ts';

const id = v.pipe(
  v.string(),
  v.regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'an id has lower-case letters and digits, words joined by hyphens'),
  v.maxLength(60),
);
const fileName = v.pipe(
  v.string(),
  v.regex(/^\w[\w.-]{0,59}$/, 'a file name has letters, digits, dots, hyphens and underscores'),
);
const hz = v.pipe(v.number(), v.minValue(1), v.maxValue(1_000_000));

/** A text file that the device reads to find its sounds: fixed text around one row for each file. */
const listFileSchema = v.strictObject({
  name: fileName,
  header: v.string(),
  /** True: sounds in source code or JSON stand in it, after the header, and are no files of their own. */
  holdsSounds: v.optional(v.boolean()),
  /** Stands before the rows. */
  index: v.optional(v.string()),
  /** Fields in braces: {displayName}, {fileName}, {stem}, {identifier}, {slot}, {frames}, {bytes}, {sampleRate}, {seconds}. */
  row: v.string(),
  footer: v.string(),
});

const namingSchema = v.strictObject({
  /** Stands between the words of a file's name. */
  separator: v.picklist(['-', '_']),
});

const slotsSchema = v.strictObject({
  /** What the device calls one: "button", "channel". */
  word: v.pipe(v.string(), v.nonEmpty(), v.maxLength(30)),
  /** Number of the first. */
  first: v.pipe(v.number(), v.integer(), v.minValue(0)),
  /** How many there are; left out where it is not known. */
  count: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1))),
});

/** How the device reads a card: what a stand-in needs to know. */
const playerSchema = v.strictObject({
  /** Whether it reads a file's header, or takes all bytes for samples. */
  reads: v.picklist(['header', 'bare']),
  /** What it does with chunks and tags that it does not know. */
  extraChunks: v.picklist(['skips', 'refuses', 'plays']),
  /** In which order it finds its sounds. */
  order: v.picklist(['name', 'list', 'slot', 'card']),
  /** Longer names are not there for it; characters with the extension. */
  longestName: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(255))),
  /** Hz at which it plays whatever the file states; left out where it obeys the file. */
  playsAt: v.optional(hz),
  /** Frames that it takes at a time; what is left over at the end is filled with whatever is there. */
  block: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1))),
  /** What its loudspeaker makes, in Hz. */
  speaker: v.strictObject({ low: hz, high: hz }),
});

const isKind = (kind: string) => requirementKinds.some((entry) => entry.kind === kind);

const variantSchema = v.strictObject({
  id,
  name: v.pipe(v.string(), v.nonEmpty(), v.maxLength(60)),
  /** Each takes the place of those of its kind that the sheet has, advised and not advised apart. */
  requirements: v.array(requirementSchema),
  /** Kinds that the sheet has and this edition has not. */
  without: v.optional(v.array(v.pipe(v.string(), v.check(isKind, 'there is no such kind of requirement')))),
});

const sheetSchema = v.strictObject({
  id,
  name: v.pipe(v.string(), v.trim(), v.nonEmpty('a sheet needs a name'), v.maxLength(60)),
  /** One or two sentences: which devices, and what they are like. */
  about: v.pipe(v.string(), v.maxLength(1000)),
  requirements: v.pipe(v.array(requirementSchema), v.minLength(1, 'a sheet needs at least one requirement')),
  variants: v.optional(v.array(variantSchema)),
  naming: namingSchema,
  listFile: v.optional(listFileSchema),
  slots: v.optional(slotsSchema),
  player: v.optional(playerSchema),
});

/** What a device accepts, written down as requirements: a target sheet. */
export type Target = v.InferOutput<typeof sheetSchema>;
export type ListFile = v.InferOutput<typeof listFileSchema>;

/**
 * The sheet as one of its editions has it; itself for null.
 * @throws InputError with code `unknown-variant`
 */
export function withVariant(target: Target, variantId: string | null): Target {
  if (variantId === null) return target;
  const { variants = [] } = target;
  const variant = variants.find((entry) => entry.id === variantId);
  if (!variant) {
    const known = variants.map((entry) => entry.id);
    const choice = known.length ? `choose one of: ${known.join(', ')}` : 'it has none, so leave it out';
    throw new InputError('unknown-variant', `${target.name} has no variant "${shortened(variantId)}"; ${choice}.`);
  }
  const { requirements, without = [], name } = variant;
  const isReplaced = (old: Requirement) =>
    without.includes(old.kind) ||
    requirements.some(({ kind, advised }) => kind === old.kind && Boolean(advised) === Boolean(old.advised));
  // A replacement stands where the first of its kind stood.
  const fresh = [...requirements];
  const kept = target.requirements.flatMap((old) => {
    if (!isReplaced(old)) return [old];
    const here = fresh.filter(({ kind }) => kind === old.kind);
    for (const entry of here) fresh.splice(fresh.indexOf(entry), 1);
    return here;
  });
  return { ...target, name: `${target.name}, ${name}`, requirements: [...kept, ...fresh] };
}

/** A demand and the requirement that it comes from. */
export type SettledDemands = {
  readonly [K in keyof Demands]?: { readonly value: Demands[K]; readonly from: Requirement };
};

/** What the sheet asks of the stations. Of two requirements on the same thing the later one counts. */
export function demandsOf(target: Pick<Target, 'requirements'>): SettledDemands {
  const demands: Record<string, unknown> = {};
  for (const from of target.requirements) {
    const kind = kindOf(from);
    if (from.advised && !kind.isDoneWhenAdvised) continue;
    for (const [name, value] of Object.entries(kind.demands?.(from) ?? {})) demands[name] = { value, from };
  }
  return demands as SettledDemands;
}

/** Folder of the card in which a sheet wants its files; empty for the top. */
export const folderOf = (target: Pick<Target, 'requirements'>): string => demandsOf(target).folder?.value ?? '';

/** A requirement as a clause: "sample rate: 8 000 Hz". */
export function requirementText(requirement: Requirement): string {
  const kind = kindOf(requirement);
  return `${kind.title}: ${kind.wanted(requirement)}`;
}

/** How the device reads bytes without a header; undefined where it wants a file that describes itself. */
export function headerlessReading(target: Pick<Target, 'requirements'>): Reading | undefined {
  const { containers, encodings, sampleRates, rateRange, channelCounts } = demandsOf(target);
  const isBare = containers?.value.some((id) => findOutContainer(id)?.describesItself === false);
  const rate = sampleRates?.value[0] ?? rateRange?.value.most;
  if (!isBare || !encodings || !rate) return undefined;
  return {
    encoding: encodings.value[0],
    sampleRate: Math.round(hertz(rate)),
    channels: channelCounts?.value[0] ?? 1,
  };
}

/** Every edition of a sheet: itself, and its variants. */
const editionsOf = (sheet: Target): readonly Target[] => [
  sheet,
  ...(sheet.variants ?? []).map(({ id }) => withVariant(sheet, id)),
];

/** A target sheet, as it comes from anywhere: of every edition a file can be written. */
export const targetSchema = v.pipe(
  sheetSchema,
  v.check(
    ({ variants = [] }) => new Set(variants.map((entry) => entry.id)).size === variants.length,
    'two variants have the same id',
  ),
  v.rawCheck(({ dataset, addIssue }) => {
    // Ids that there are not have been refused already.
    if (!dataset.typed || dataset.issues) return;
    for (const edition of editionsOf(dataset.value)) {
      const trouble = unwritable(demandsOf(edition));
      if (trouble !== null) return addIssue({ message: `no file can meet ${edition.name}: ${trouble}` });
    }
  }),
);
