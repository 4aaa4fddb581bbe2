import * as v from 'valibot';
import { idSchema } from '../forms/index.ts';
import { listFileSchema, packSchema } from '../lists/index.ts';
import { playerSchema } from '../standin/index.ts';
import { blankSchema, evidenceSchema, faceSchema, firmwareSchema, namingSchema, placesSchema } from './parts.ts';
import { requirementSchema } from './requirements/index.ts';

/** Counts what has changed in how documents are written. */
export const FORMAT = 2;

/** The name of an edition is that of the sheet and that of the variant. */
const LONGEST_NAME = 60;
const sheetName = v.pipe(
  v.string(),
  v.trim(),
  v.nonEmpty('a sheet needs a name'),
  v.maxLength(2 * LONGEST_NAME + ', '.length),
);

/** Parts of one list of a sheet, and its variants: each variant is gone through with all parts. */
const MOST_PARTS = 200;
const MOST_VARIANTS = 60;
const MOST_BLANKS = 40;
const MOST_EVIDENCE = 1000;

/** A list of parts of a sheet. */
const some = <S extends v.GenericSchema>(schema: S, most = MOST_PARTS) =>
  v.pipe(v.array(schema), v.maxLength(most, `it must have ${most} entries or fewer`));

/** What an edition of the sheet may have in place of what the sheet has. */
const replaceable = {
  requirements: some(requirementSchema),
  lists: some(listFileSchema),
  packs: some(packSchema),
  player: playerSchema,
  places: placesSchema,
  face: faceSchema,
  naming: namingSchema,
};

const variantSchema = v.strictObject({
  id: idSchema,
  name: v.pipe(v.string(), v.nonEmpty(), v.maxLength(LONGEST_NAME)),
  /**
   * Requirements, list files and packs take the place of those of their keys, or come last; traits of the player of
   * those of their names; the rest of what the sheet has.
   */
  replace: v.partial(v.strictObject(replaceable)),
  /** Keys of parts that the sheet has and this edition has not, and of what would follow from its player. */
  without: some(idSchema),
  /** For which firmware of the device it holds, where that decides. */
  firmware: v.optional(firmwareSchema),
});

/** The sheet alone; what holds between its parts is checked by `targetSchema`. */
export const sheetSchema = v.strictObject({
  format: v.literal(FORMAT, `this Tambur reads format ${FORMAT}`),
  id: idSchema,
  /** Counts what has been changed in a sheet that is passed on. */
  edition: v.pipe(v.number(), v.integer(), v.minValue(1)),
  name: sheetName,
  /** One or two sentences: which devices, and what they are like. */
  about: v.pipe(v.string(), v.maxLength(1000)),
  ...replaceable,
  /** Keys of what follows from its player and is not asked all the same. */
  without: v.optional(some(idSchema), []),
  variants: some(variantSchema, MOST_VARIANTS),
  blanks: some(blankSchema, MOST_BLANKS),
  places: v.optional(placesSchema),
  face: v.optional(faceSchema),
  evidence: some(evidenceSchema, MOST_EVIDENCE),
});

/** What a device accepts, written down as requirements: a target sheet. */
export type Target = v.InferOutput<typeof sheetSchema>;
export type Variant = v.InferOutput<typeof variantSchema>;

/** What a sheet has where it says nothing. */
export const EMPTY_SHEET = {
  format: FORMAT,
  edition: 1,
  requirements: [],
  without: [],
  variants: [],
  blanks: [],
  lists: [],
  packs: [],
  player: {},
  evidence: [],
} as const satisfies Partial<Target>;
