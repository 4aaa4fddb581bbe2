import { type Blank, formFields, freeId, kindOf, type Target, traitsOf, type Value } from '@tambur/core';

/** An entry of a requirement that can be asked for: a number or a text. */
export interface Entry {
  readonly at: Blank['at'][number];
  readonly label: string;
  readonly value: Value;
}

/** Everything that a sheet asks, and that its device does, which can be asked for. */
export function entriesOf({ requirements, player }: Pick<Target, 'requirements' | 'player'>): Entry[] {
  const parts = [
    ...requirements.map((requirement) => ({
      ...kindOf(requirement),
      key: requirement.key,
      part: requirement as unknown,
    })),
    ...traitsOf(player).map(({ trait, value }) => ({ ...trait, key: trait.id, part: value })),
  ];
  return parts.flatMap(({ key, title, schema, part }) =>
    formFields(schema).flatMap((field) => {
      const value = field.key === '' ? part : (part as Readonly<Record<string, unknown>>)[field.key];
      const isAsked = field.type !== 'choice' && (typeof value === 'number' || typeof value === 'string');
      const pointer = field.key === '' ? '' : `/${field.key}`;
      return isAsked ? [{ at: { key, pointer }, label: `${title}: ${field.label}`, value }] : [];
    }),
  );
}

const isAt =
  ({ key, pointer }: Entry['at']) =>
  (entry: Entry) =>
    entry.at.key === key && entry.at.pointer === pointer;

/** The questions of a sheet, with what stands in their places as the usual answer; without those whose places have gone. */
export function withUsualInPlace(sheet: Target): Blank[] {
  const entries = entriesOf(sheet);
  return sheet.blanks.flatMap((blank) => {
    const [first] = blank.at;
    const entry = first && entries.find(isAt(first));
    if (entry) return [{ ...blank, usual: entry.value }];
    const isRequirement = blank.at.some(({ key }) => !Object.hasOwn(sheet.player, key) && key !== 'places');
    return isRequirement ? [] : [blank];
  });
}

/** What a question stands for; undefined if its place has gone. */
export const entryOf = ({ at }: Blank, entries: readonly Entry[]): Entry | undefined =>
  entries.find((entry) => at.some((place) => isAt(place)(entry)));

/** What no question stands for yet. */
export const freeEntries = (entries: readonly Entry[], blanks: readonly Blank[]): Entry[] =>
  entries.filter((entry) => !blanks.some((blank) => entryOf(blank, [entry])));

/** The questions with one more, of the job, with an id of its own. */
export function withQuestion(blanks: readonly Blank[], { at, label, value }: Entry): Blank[] {
  const id = freeId(at.key, (wished) => blanks.some((blank) => blank.id === wished));
  return [...blanks, { id, question: `${label}?`, level: 'job', usual: value, at: [at] }];
}
