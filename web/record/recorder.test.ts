import { afterEach, expect, test, vi } from 'vitest';
import { openMicrophone } from './recorder.ts';

/** A browser with a microphone whose sound can be made to fail at a place. */
function browser(fault?: 'context' | 'worklet' | 'node' | 'resume') {
  const track = { stop: vi.fn(), getSettings: () => ({ sampleRate: 48_000 }) };
  const stream = { getTracks: () => [track], getAudioTracks: () => [track] };
  const closed = vi.fn();
  const port: { onmessage?: (event: { data: Float32Array[] }) => void } = {};
  const fail = (place: typeof fault) => {
    if (fault === place) throw new Error(`no ${place}`);
  };
  vi.stubGlobal('navigator', { mediaDevices: { getUserMedia: async () => stream } });
  vi.stubGlobal(
    'AudioContext',
    class {
      readonly sampleRate = 48_000;
      constructor() {
        fail('context');
      }
      readonly audioWorklet = { addModule: async () => fail('worklet') };
      createMediaStreamSource = () => ({ connect: () => undefined });
      resume = async () => fail('resume');
      close = async () => closed();
    },
  );
  vi.stubGlobal(
    'AudioWorkletNode',
    class {
      readonly port = port;
      constructor() {
        fail('node');
      }
    },
  );
  return { track, closed, hear: (...data: Float32Array[]) => port.onmessage?.({ data }) };
}

afterEach(() => void vi.unstubAllGlobals());

test.each([
  'context',
  'worklet',
  'node',
  'resume',
] as const)('where the %s fails, the microphone is let go', async (place) => {
  const { track, closed } = browser(place);
  await expect(openMicrophone(null, () => undefined)).rejects.toThrow(`no ${place}`);
  expect(track.stop).toHaveBeenCalledOnce();
  expect(closed).toHaveBeenCalledTimes(place === 'context' ? 0 : 1);
});

test('what comes is metered always and kept while it records; mono that becomes stereo is stereo', async () => {
  const { track, closed, hear } = browser();
  const peaks: number[] = [];
  const microphone = await openMicrophone(null, (peak) => peaks.push(peak));
  hear(Float32Array.of(0.5, -0.75));
  microphone.record();
  hear(Float32Array.of(0.25, 0.125));
  hear(Float32Array.of(0.5), Float32Array.of(-1));
  const pcm = microphone.finish();
  hear(Float32Array.of(1));
  expect(peaks).toEqual([0.75, 0.25, 1, 1]);
  expect(pcm.sampleRate).toBe(48_000);
  expect(pcm.channels.map((samples) => [...samples])).toEqual([
    [0.25, 0.125, 0.5],
    [0.25, 0.125, -1],
  ]);
  microphone.close();
  expect(track.stop).toHaveBeenCalledOnce();
  expect(closed).toHaveBeenCalledOnce();
});
