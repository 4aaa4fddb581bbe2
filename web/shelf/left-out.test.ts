import { expect, test } from 'vitest';
import { isLeftOut } from './left-out.ts';

test('of a folder all comes in but what systems put there', () => {
  const names = ['gong.wav', '.DS_Store', '._gong.wav', 'Thumbs.db', 'DESKTOP.INI', 'thumbs.db.wav', 'a.desktop.ini'];
  expect(names.filter((name) => !isLeftOut(name))).toEqual(['gong.wav', 'thumbs.db.wav', 'a.desktop.ini']);
});
