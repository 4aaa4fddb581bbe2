import { type Pcm, peakOf } from '@tambur/core';

/** A microphone that is open: it is metered all the time, and kept while it records. */
export interface Microphone {
  /** Hz, the device's own. */
  readonly sampleRate: number;
  /** Begins to keep what comes. */
  record(): void;
  /** Ends the recording and gives it. */
  finish(): Pcm;
  /** Releases the device. */
  close(): void;
}

/** What stands in the way of the microphone, in words. */
function reason(error: unknown): Error {
  const name = error instanceof DOMException ? error.name : '';
  if (name === 'NotAllowedError') {
    return new Error('The browser is not allowed to use the microphone; allow it in the address bar and try again.');
  }
  if (name === 'NotFoundError' || name === 'OverconstrainedError') {
    return new Error('There is no such microphone; plug one in, or choose another input.');
  }
  if (name === 'NotReadableError') {
    return new Error('The microphone is in use by another program; close that and try again.');
  }
  return error instanceof Error ? error : new Error(String(error));
}

export interface Input {
  readonly id: string;
  readonly label: string;
}

/** The inputs of this machine. They have names only once the microphone may be used. */
export async function listInputs(): Promise<Input[]> {
  const devices = await navigator.mediaDevices.enumerateDevices();
  return devices
    .filter(({ kind }) => kind === 'audioinput')
    .map(({ deviceId, label }, i) => ({ id: deviceId, label: label || `Input ${i + 1}` }));
}

/**
 * Opens an input as it is: no echo cancelling, no noise filter, no automatic level, at its own rate.
 * @param onLevel receives the peak of each piece, linear
 */
export async function openMicrophone(inputId: string | null, onLevel: (peak: number) => void): Promise<Microphone> {
  if (!navigator.mediaDevices) {
    throw new Error('The browser offers no microphone at this address; open Tambur as http://localhost or 127.0.0.1.');
  }
  let stream: MediaStream | undefined;
  let context: AudioContext | undefined;
  const close = () => {
    for (const track of stream?.getTracks() ?? []) track.stop();
    void context?.close();
  };
  try {
    stream = await navigator.mediaDevices.getUserMedia({
      audio: {
        ...(inputId ? { deviceId: { exact: inputId } } : {}),
        echoCancellation: false,
        noiseSuppression: false,
        autoGainControl: false,
      },
    });
    const { sampleRate: own } = stream.getAudioTracks()[0]?.getSettings() ?? {};
    context = new AudioContext(own ? { sampleRate: own } : {});
    const { sampleRate } = context;
    await context.audioWorklet.addModule('/recorder-worklet.js');
    const node = new AudioWorkletNode(context, 'tambur-recorder', { numberOfOutputs: 0 });
    let kept: Float32Array[][] | null = null;
    node.port.onmessage = ({ data }: MessageEvent<Float32Array[]>) => {
      onLevel(Math.max(...data.map(peakOf)));
      kept?.push(data);
    };
    context.createMediaStreamSource(stream).connect(node);
    await context.resume();
    return {
      sampleRate,
      record: () => {
        kept = [];
      },
      finish: () => {
        const pcm = joined(kept ?? [], sampleRate);
        kept = null;
        return pcm;
      },
      close,
    };
  } catch (error) {
    // A microphone that cannot be used is released.
    close();
    throw reason(error);
  }
}

/** One sound of all pieces. A device that changes from mono to stereo on the way gives stereo. */
function joined(pieces: readonly (readonly Float32Array[])[], sampleRate: number): Pcm {
  const count = Math.max(1, ...pieces.map((piece) => piece.length));
  const frames = pieces.reduce((sum, piece) => sum + (piece[0]?.length ?? 0), 0);
  const channels = Array.from({ length: count }, () => new Float32Array(frames));
  let at = 0;
  for (const piece of pieces) {
    channels.forEach((channel, i) => {
      channel.set(piece[i] ?? piece[0] ?? [], at);
    });
    at += piece[0]?.length ?? 0;
  }
  return { sampleRate, channels };
}
