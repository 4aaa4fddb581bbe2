import fc from 'fast-check';
import { expect, test } from 'vitest';
import { wishWith } from './wish.ts';

interface Wish {
  readonly gain?: number;
  readonly limit?: boolean;
  readonly fade?: { readonly ms: number };
}

test.each<['automatic' | Wish, Parameters<typeof wishWith<Wish>>[1], 'automatic' | Wish]>([
  ['automatic', {}, 'automatic'],
  ['automatic', { gain: 0 }, { gain: 0 }],
  [{ gain: 3 }, { limit: true }, { gain: 3, limit: true }],
  [{ gain: 3, limit: true }, { limit: false }, { gain: 3 }],
  [{ gain: 3 }, { gain: undefined }, 'automatic'],
  [{ fade: { ms: 0 } }, { gain: undefined }, { fade: { ms: 0 } }],
])('%j with %j is %j', (wish, change, wanted) => expect(wishWith(wish, change)).toEqual(wanted));

test('what is taken back again leaves the wish as it was', () => {
  const wish = fc.record({ gain: fc.integer(), limit: fc.constant(true) }, { requiredKeys: ['gain'] });
  fc.assert(
    fc.property(wish, fc.integer(), (before, ms) => {
      const faded = wishWith<Wish>(before, { fade: { ms } });
      expect(faded).toEqual({ ...before, fade: { ms } });
      expect(wishWith<Wish>(faded, { fade: undefined })).toEqual(before);
    }),
  );
});
