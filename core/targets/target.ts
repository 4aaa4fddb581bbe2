import * as v from 'valibot';
import type { Reading } from '../containers/index.ts';
import { type Demands, kindOf, type Requirement, requirementSchema } from './requirements/index.ts';

/** A text file that the device reads to find its sounds: fixed text around one row for each file. */
const listFileSchema = v.object({
  name: v.string(),
  header: v.string(),
  /** Fields in braces: {displayName}, {fileName}, {frames}, {bytes}. */
  row: v.string(),
  footer: v.string(),
});

export const targetSchema = v.object({
  id: v.pipe(v.string(), v.regex(/^[a-z0-9]+(-[a-z0-9]+)*$/)),
  name: v.pipe(v.string(), v.nonEmpty()),
  /** One or two sentences: which devices, and what they are like. */
  about: v.string(),
  requirements: v.pipe(v.array(requirementSchema), v.minLength(1)),
  naming: v.object({
    /** Stands between the words of a file's name. */
    separator: v.picklist(['-', '_']),
  }),
  listFile: v.optional(listFileSchema),
});

/** What a device accepts, written down as requirements: a target sheet. */
export type Target = v.InferOutput<typeof targetSchema>;
export type ListFile = v.InferOutput<typeof listFileSchema>;

/** A demand and the requirement that it comes from. */
export type SettledDemands = {
  readonly [K in keyof Demands]?: { readonly value: Demands[K]; readonly from: Requirement };
};

/** What the sheet asks of the stations. Of two requirements on the same thing the later one counts. */
export function demandsOf(target: Pick<Target, 'requirements'>): SettledDemands {
  const demands: Record<string, unknown> = {};
  for (const from of target.requirements) {
    const kind = kindOf(from);
    if (kind.scope === 'set') continue;
    for (const [name, value] of Object.entries(kind.demands(from))) demands[name] = { value, from };
  }
  return demands as SettledDemands;
}

/** A requirement as a clause: "sample rate: 8 000 Hz". */
export function requirementText(requirement: Requirement): string {
  const kind = kindOf(requirement);
  return `${kind.title}: ${kind.wanted(requirement)}`;
}

/** How the device reads bytes without a header; undefined where it wants a file that describes itself. */
export function headerlessReading(target: Target): Reading | undefined {
  const { containers, encodings, sampleRates, channelCounts } = demandsOf(target);
  if (!containers?.value.includes('headerless') || !encodings || !sampleRates) return undefined;
  return {
    encoding: encodings.value[0],
    sampleRate: sampleRates.value[0],
    channels: channelCounts?.value[0] ?? 1,
  };
}
