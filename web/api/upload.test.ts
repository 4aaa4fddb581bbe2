import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { tellProgress } from './progress.ts';
import { uploadSource } from './upload.ts';

class FakeRequest {
  readonly upload: { onprogress?: (event: object) => void; onload?: () => void } = {};
  onload?: () => void;
  onerror?: () => void;
  onabort?: () => void;
  status = 0;
  response: unknown = null;
  address = '';
  readonly send = vi.fn();
  constructor() {
    request = this;
  }
  open(_: string, address: string) {
    this.address = address;
  }
  abort() {
    this.onabort?.();
  }
}

let request: FakeRequest | null = null;
const sent = (): FakeRequest => {
  if (!request) throw new Error('nothing was sent');
  return request;
};
const file = new File(['x'], 'bell & horn.wav');

beforeEach(() => {
  request = null;
  vi.stubGlobal('XMLHttpRequest', FakeRequest);
});
afterEach(() => void vi.unstubAllGlobals());

test('a file is sent under its name, and told how far it is: sent, then decoded', async () => {
  const told: unknown[] = [];
  const reading = { encoding: 'mu-law', sampleRate: 8000, channels: 1 };
  const done = uploadSource(file, {
    reading,
    onProgress: (progress) => told.push(progress),
    signal: new AbortController().signal,
  });
  const query = new URL(sent().address, 'http://localhost').searchParams;
  expect(query.get('name')).toBe('bell & horn.wav');
  expect(JSON.parse(query.get('reading') ?? '')).toEqual(reading);
  sent().upload.onprogress?.({ loaded: 5, total: 10 });
  sent().upload.onload?.();
  const importId = query.get('importId') ?? '';
  tellProgress({ type: 'import', importId, frames: 30, expected: 20 });
  tellProgress({ type: 'import', importId, frames: 30, expected: null });
  Object.assign(sent(), { status: 201, response: { id: 's' } });
  sent().onload?.();
  await expect(done).resolves.toEqual({ id: 's' });
  expect(told).toEqual([
    { sent: 0.5, decoded: null },
    { sent: 1, decoded: null },
    { sent: 1, decoded: 1 },
    { sent: 1, decoded: null },
  ]);
});

test.each<[string, (sent: FakeRequest) => void, string]>([
  [
    'the server refuses it',
    (it) => {
      Object.assign(it, { status: 422, response: { error: { code: 'damaged', message: 'It is damaged.' } } });
      it.onload?.();
    },
    'It is damaged.',
  ],
  ['nobody answers', (it) => it.onerror?.(), 'The Tambur server does not answer; start it again with ./start.'],
])('where %s, that is said', async (_, end, words) => {
  const done = uploadSource(file, { onProgress: () => undefined, signal: new AbortController().signal });
  end(sent());
  await expect(done).rejects.toThrow(words);
});

test('what is cancelled is not sent on, and not begun', async () => {
  const control = new AbortController();
  const done = uploadSource(file, { onProgress: () => undefined, signal: control.signal });
  control.abort(new Error('not wanted'));
  await expect(done).rejects.toThrow('not wanted');
  request = null;
  await expect(uploadSource(file, { onProgress: () => undefined, signal: control.signal })).rejects.toThrow(
    'not wanted',
  );
  expect(request).toBeNull();
});
