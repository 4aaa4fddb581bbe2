import { expect, test } from 'vitest';
import { nameByPattern } from './index.ts';

const parts = {
  tags: [
    { name: 'title', value: 'Upper\nstation' },
    { name: 'trackNumber', value: '3/12' },
    { name: 'ARTIST', value: 'Volunteers' },
  ],
  file: 'IMG_0042',
  number: 7,
};
test.each([
  ['{track} {title}', '03 Upper station'],
  ['{title}', 'Upper station'],
  ['{artist} - {title}', 'Volunteers - Upper station'],
  ['{album} - {title}', 'Upper station'],
  ['{title}, {album}, {artist}', 'Upper station, Volunteers'],
  ['{number}. {file}', '07. IMG_0042'],
  ['{album}', ''],
  ['{album} {date}', ''],
  ['plain', ''],
  ['{tittle} {title}', '{tittle} Upper station'],
])('%s gives %j', (pattern, wanted) => expect(nameByPattern(pattern, parts)).toBe(wanted));
