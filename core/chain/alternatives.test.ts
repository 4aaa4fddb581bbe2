import { describe, expect, test } from 'vitest';
import type { Requirement, Target } from '../targets/index.ts';
import { wavSheet } from './fixtures/sheets.ts';
import { factsFor, sources } from './fixtures/sources.ts';
import { alternativesOf, automaticSettings, parseSettings, type StationId, settle, stationIds } from './index.ts';

const chainOf = (target: Target, wishes: object = {}, pcm = sources.plain) =>
  settle({ facts: factsFor(pcm), settings: parseSettings({ ...automaticSettings('x'), ...wishes }), target });
const labels = (target: Target, id: StationId, wishes: object = {}, pcm = sources.plain) =>
  alternativesOf(chainOf(target, wishes, pcm), id).map(({ label }) => label);

const mono: Requirement = { key: 'channels', kind: 'channels', anyOf: [1] };
const eight: Requirement = { key: 'encoding', kind: 'encoding', anyOf: ['pcm-u8'] };
const rates: Requirement = { key: 'rate', kind: 'sample-rate', anyOf: [8000, 16_000] };

describe('what a station could do instead', () => {
  // Both mixed is what it does by itself; what breaks the sheet may be heard as well, and its findings say so.
  test.each<[StationId, Target, string[]]>([
    ['channels', wavSheet(mono), ['automatic', 'left', 'right', 'both mixed, equal power', 'all kept']],
    ['rate', wavSheet(rates), ['automatic', '16\u202f000 Hz']],
    ['depth', wavSheet(eight), ['automatic', 'no noise', 'noise, one step', 'noise moved away']],
    [
      'level',
      wavSheet(),
      ['automatic', 'peak −1.0 dBFS', 'peak −3.0 dBFS', 'peak −6.0 dBFS', '−16.0 LUFS', '−23.0 LUFS'],
    ],
    ['wrap', wavSheet({ key: 'encoding', kind: 'encoding', anyOf: ['pcm-u8', 'mu-law'] }), ['automatic', 'mu-law']],
    ['cut', wavSheet(), []],
  ])('%s', (id, target, wanted) =>
    expect(labels(target, id).filter((label) => id !== 'cut' || label !== 'automatic')).toEqual(wanted));

  test('each is what is wished, and all else stays as it was', () => {
    const chain = chainOf(wavSheet(mono, eight, rates), {
      ends: { fadeIn: { ms: 5 } },
      level: { peakDb: -3, removeDc: true },
    });
    for (const id of stationIds) {
      for (const { wish, chain: other } of alternativesOf(chain, id)) {
        expect(other.order.settings[id]).toEqual(wish);
        for (const rest of stationIds.filter((each) => each !== id)) {
          expect(other.order.settings[rest]).toEqual(chain.order.settings[rest]);
        }
      }
    }
  });
});
