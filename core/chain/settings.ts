import * as v from 'valibot';
import { notFinite } from '../audio/index.ts';
import { issueWords } from '../forms/index.ts';
import { InputError, oneLine, shortened } from '../words/index.ts';
import type { PlansOf } from './station.ts';
import { stations } from './stations/list.ts';

export { stations };

export type StationId = keyof typeof stations;

export const stationIds = Object.keys(stations) as StationId[];

/** What a user may set by hand at a station. */
export type Wish<Id extends StationId> = v.InferOutput<(typeof stations)[Id]['wish']>;

/** What every station will do once it is settled. */
export type Plans = PlansOf<typeof stations>;

export type Plan<Id extends StationId> = Plans[Id];

/** What is wished for one file: for each station `automatic` or a value. Plain data. */
export type ClipSettings = {
  /** The clip's name for people; its file name is made from it. */
  readonly name: string;
} & { readonly [Id in StationId]: 'automatic' | Wish<Id> };

const wishSchemas = Object.fromEntries(
  Object.entries(stations).map(([id, { wish }]) => [
    id,
    v.optional(v.union([v.literal('automatic'), wish as v.GenericSchema<unknown>]), 'automatic'),
  ]),
);

export const clipSettingsSchema = v.object({
  // It stands in list files, so it is one line.
  name: v.pipe(v.string(), v.transform(oneLine), v.trim(), v.nonEmpty('a clip needs a name'), v.maxLength(120)),
  ...wishSchemas,
}) as unknown as v.GenericSchema<unknown, ClipSettings>;

/** All stations automatic. */
export const automaticSettings = (name: string): ClipSettings => parseSettings({ name });

/** @throws InputError with code `bad-setting` naming the entry and what is wrong with it */
export function parseSettings(value: unknown): ClipSettings {
  const endless = notFinite(value);
  if (endless !== null)
    throw new InputError('bad-setting', `Setting ${endless}: it is not a number; choose another value.`);
  const result = v.safeParse(clipSettingsSchema, value);
  if (result.success) return result.output;
  const outer = result.issues[0];
  const issue = deepestIssue(outer);
  const path = [...(outer.path ?? []), ...(issue === outer ? [] : (issue.path ?? []))].map(({ key }) => String(key));
  throw new InputError(
    'bad-setting',
    `Setting ${path.join('.') || 'of the clip'}: ${shortened(issueWords(issue, clipSettingsSchema, path))}; choose another value.`,
  );
}

/** Of a union's alternatives the one that went furthest into the value tells most. */
function deepestIssue(issue: v.BaseIssue<unknown>): v.BaseIssue<unknown> {
  const inner = issue.issues?.find((entry) => entry.path?.length);
  return inner ? deepestIssue(inner) : issue;
}
