import { describe, expect, test } from 'vitest';
import { allTraits, playerWords } from '../standin/index.ts';
import {
  type AskingParts,
  askedBy,
  askedRows,
  choiceMade,
  otherwiseChoices,
  requirementKinds,
  type Target,
  targets,
  withOtherwise,
  withoutOtherwise,
  withVariant,
} from './index.ts';

const editions = targets.flatMap((sheet) =>
  [null, ...sheet.variants.map(({ id }) => id)].map((id) => withVariant(sheet, id)),
);
const rowOf = (parts: AskingParts, kind: string) => {
  const row = askedRows(parts).find((entry) => entry.kind === kind);
  const [asked] = row?.asked ?? [];
  if (!row || !asked) throw new Error(`nothing of ${kind} is asked`);
  return { row, asked };
};

describe('what a device does with anything else', () => {
  test.each(
    editions.map((sheet) => [sheet.name, sheet] as const),
  )('%s: says it or not, and asks the same', (_, sheet) => {
    for (const { kind, asked } of askedRows(sheet)) {
      const [must] = asked.filter(({ advised }) => !advised);
      if (!must) continue;
      expect(askedBy(withoutOtherwise(sheet, kind))).toEqual(expect.arrayContaining([must]));
      for (const choice of otherwiseChoices(must, sheet.player)) {
        const chosen = withOtherwise(sheet, must, choice);
        const [now, ...more] = askedBy(chosen).filter((entry) => entry.kind === kind && !entry.advised);
        expect(more).toEqual([]);
        expect({ ...now }).toEqual({ ...must });
        expect(chosen.requirements.some(({ key }) => key === must.key)).toBe(false);
      }
    }
  });

  const parts: Pick<Target, 'requirements' | 'player'> = {
    requirements: [{ key: 'rate', kind: 'sample-rate', anyOf: [8000] }],
    player: {},
  };

  test('is not known, then known, then another thing, and not known again', () => {
    const { asked } = rowOf(parts, 'sample-rate');
    const choices = otherwiseChoices(asked, {});
    expect(choices.map(({ words }) => words)).toEqual([
      'refuses the file',
      'plays silence',
      'plays it at this rate all the same',
    ]);
    expect(choiceMade(choices, {})).toBeNull();
    const refusing = withOtherwise(parts, asked, choices[0]);
    expect(refusing).toEqual({ requirements: [], player: { 'plays-rates': { anyOf: [8000] } } });
    const again = rowOf(refusing, 'sample-rate');
    expect(again.row).toMatchObject({ traits: ['plays-rates'], isAnswered: true });
    const others = otherwiseChoices(again.asked, refusing.player);
    expect(choiceMade(others, refusing.player)?.words).toBe('refuses the file');
    const fixed = withOtherwise(refusing, again.asked, others[2]);
    expect(fixed).toEqual({ requirements: [], player: { 'plays-at': 8000 } });
    expect(withoutOtherwise(fixed, 'sample-rate')).toEqual({
      requirements: [{ key: 'sample-rate', kind: 'sample-rate', anyOf: [8000] }],
      player: {},
    });
  });

  test('of several rates none is that at which it plays everything', () => {
    const several = { ...parts.requirements[0], anyOf: [8000, 16_000] };
    expect(otherwiseChoices(several as Target['requirements'][0], {}).map(({ words }) => words)).toEqual([
      'refuses the file',
      'plays silence',
    ]);
  });

  test('one trait that speaks of several kinds keeps what it says of the others', () => {
    const player = { 'longest-sound': { seconds: 4, bytes: 900, beyond: 'refuses' } } as const;
    const { asked } = rowOf({ requirements: [], player }, 'file-size');
    const [, cuts] = otherwiseChoices(asked, player);
    expect(withOtherwise({ requirements: [], player }, asked, cuts).player).toEqual({
      'longest-sound': { seconds: 4, bytes: 900, beyond: 'cuts' },
    });
  });

  test('a trait that is not complete keeps its row', () => {
    const player = { holds: { bytes: 'much' } } as unknown as Target['player'];
    expect(askedRows({ requirements: [], player })).toMatchObject([{ kind: 'set-size', asked: [], traits: ['holds'] }]);
  });

  test('what is not asked although it follows has no row, and is not asked then either', () => {
    const sheet = { requirements: [], player: { 'plays-at': 8000 }, without: ['sample-rate'] };
    expect(askedRows(sheet)).toEqual([]);
    expect(withoutOtherwise(sheet, 'sample-rate')).toEqual({ requirements: [], player: {} });
  });

  test('is said of kinds that there are, in words of its own', () => {
    const kinds = new Set<string>(requirementKinds.map(({ kind }) => kind));
    const said = allTraits.flatMap(({ otherwise = [] }) => otherwise);
    expect(said.length).toBeGreaterThan(10);
    expect(said.filter(({ kind }) => !kinds.has(kind))).toEqual([]);
    expect(playerWords({ 'plays-at': 8000 })).toEqual(['plays at 8\u202f000 Hz whatever is stated']);
  });
});
