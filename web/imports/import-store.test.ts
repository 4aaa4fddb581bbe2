import { InputError, type Reading } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { type UploadOptions, uploadSource } from '../api/upload.ts';
import { factsOf, sourceOf } from '../fixtures/views.ts';
import { inspectHere } from '../sound/inspect-here.ts';
import { Imports } from './import-store.ts';

vi.mock('../api/upload.ts', () => ({ uploadSource: vi.fn() }));
vi.mock('../sound/inspect-here.ts', () => ({ inspectHere: vi.fn() }));

interface Sending {
  readonly name: string;
  readonly reading: Reading | undefined;
  readonly progress: UploadOptions['onProgress'];
  readonly finish: (source: SourceView) => void;
  readonly fail: (error: Error) => void;
}

let sending: Sending[];

beforeEach(() => {
  sending = [];
  vi.mocked(inspectHere).mockReset().mockResolvedValue(null);
  vi.mocked(uploadSource).mockImplementation(
    (file, { reading, onProgress, signal }) =>
      new Promise((finish, fail) => {
        sending.push({ name: file.name, reading, progress: onProgress, finish, fail });
        signal.addEventListener('abort', () => fail(signal.reason));
      }),
  );
});

const file = (name: string) => new File(['x'], name);
const settle = () => new Promise((resolve) => setTimeout(resolve, 0));
const states = (imports: Imports) => imports.store.getState().rows.map(({ name, state }) => `${name} ${state.kind}`);

describe('files on their way in', () => {
  test('go two at a time, in order, and leave the list when they are there', async () => {
    const ready: string[] = [];
    const imports = new Imports(({ source, fileName }, { isFirst, order }) =>
      ready.push(`${order}: ${source.id} as ${fileName}${isFirst ? ', first' : ''}`),
    );
    imports.add(['a', 'b', 'c'].map(file));
    expect(states(imports)).toEqual(['a sending', 'b sending', 'c waiting']);
    sending[1]?.finish(sourceOf('b'));
    await settle();
    expect(states(imports)).toEqual(['a sending', 'c sending']);
    sending[0]?.progress({ sent: 0.5, decoded: null });
    expect(imports.store.getState().rows[0]?.state).toEqual({ kind: 'sending', sent: 0.5 });
    sending[0]?.progress({ sent: 1, decoded: 0.25 });
    expect(states(imports)).toEqual(['a decoding', 'c sending']);
    expect(imports.store.getState().rows[0]?.state).toEqual({ kind: 'decoding', decoded: 0.25 });
    sending[0]?.finish(sourceOf('a'));
    sending[2]?.finish(sourceOf('c'));
    await settle();
    expect(ready).toEqual(['1: b as b, first', '0: a as a', '2: c as c']);
    expect(states(imports)).toEqual([]);
    expect(imports.store.getState().arrived).toBe(3);
  });

  test('one that fails stays with its reason, stops no other, and can be tried again', async () => {
    const imports = new Imports(() => undefined);
    imports.add(['bad', 'good'].map(file));
    sending[0]?.fail(new Error('The file is empty.'));
    sending[1]?.finish(sourceOf('good'));
    await settle();
    expect(imports.store.getState().rows).toMatchObject([{ state: { kind: 'failed', message: 'The file is empty.' } }]);
    imports.retry(imports.store.getState().rows[0]?.id ?? '');
    await settle();
    expect(states(imports)).toEqual(['bad sending']);
  });

  test('headerless bytes are sent again with what the user says they are', async () => {
    const imports = new Imports(() => undefined);
    imports.add([file('bell.raw')]);
    sending[0]?.fail(new InputError('not-audio', 'The file is of no known kind.'));
    await settle();
    const [row] = imports.store.getState().rows;
    expect(row?.state).toMatchObject({ kind: 'failed', code: 'not-audio' });
    const reading = { encoding: 'mu-law', sampleRate: 8000, channels: 1 };
    imports.retry(row?.id ?? '', reading);
    expect(sending[1]).toMatchObject({ name: 'bell.raw', reading });
    // What the page thinks of the bytes no longer counts.
    expect(inspectHere).toHaveBeenCalledOnce();
  });

  test('clearing leaves what is still coming', async () => {
    const imports = new Imports(() => undefined);
    imports.add(['bad', 'slow'].map(file));
    sending[0]?.fail(new Error('The file is empty.'));
    await settle();
    imports.clear();
    expect(states(imports)).toEqual(['slow sending']);
  });

  test('what the page finds unusable is not sent on', async () => {
    vi.mocked(inspectHere).mockResolvedValueOnce({ refused: 'The file is empty.', code: 'empty-file' });
    const imports = new Imports(() => undefined);
    imports.add([file('bad.wav')]);
    await settle();
    expect(imports.store.getState().rows).toMatchObject([
      { state: { kind: 'failed', message: 'bad.wav: The file is empty.', code: 'empty-file' } },
    ]);
  });

  test('facts that the page finds show while the file is on its way', async () => {
    vi.mocked(inspectHere).mockResolvedValueOnce({ facts: factsOf(2) });
    const imports = new Imports(() => undefined);
    imports.add([file('a.wav')]);
    await settle();
    expect(imports.store.getState().rows[0]?.facts?.frames).toBe(88_200);
  });

  test('a page that cannot look leaves the word to the server', async () => {
    const warned = vi.spyOn(console, 'warn').mockImplementation(() => undefined);
    vi.mocked(inspectHere).mockRejectedValueOnce(new Error('no worker'));
    const imports = new Imports(() => undefined);
    imports.add([file('a.wav')]);
    await settle();
    expect(states(imports)).toEqual(['a.wav sending']);
    expect(warned).toHaveBeenCalledOnce();
    warned.mockRestore();
  });

  test('cancelling one takes its row away and lets the next go; cancelling all takes all', async () => {
    const imports = new Imports(() => expect.unreachable());
    imports.add(['a', 'b', 'c'].map(file));
    imports.drop(imports.store.getState().rows[0]?.id ?? '');
    await settle();
    expect(states(imports)).toEqual(['b sending', 'c sending']);
    imports.dropAll();
    await settle();
    expect(states(imports)).toEqual([]);
  });
});
