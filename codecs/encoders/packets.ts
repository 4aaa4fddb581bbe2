import {
  type AudioEncodingConfig,
  AudioSample,
  AudioSampleSource,
  type EncodedPacket,
  NullTarget,
  Output,
  type OutputFormat,
} from 'mediabunny';

/** What an encoder of the media library gives, without a container. */
export interface Packet {
  readonly data: Uint8Array;
  /** Seconds. */
  readonly duration: number;
}

export interface PacketEncoder {
  /** Packets that became complete. */
  push(block: readonly Float32Array[]): Promise<readonly Packet[]>;
  finish(): Promise<readonly Packet[]>;
  /** What decoders need to know before the first packet; null before it has come. */
  description(): Uint8Array | null;
  /** Ends the library's thread, whatever it is doing. */
  close(): Promise<void>;
}

const bytesOf = (description: AllowSharedBufferSource | undefined): Uint8Array | null => {
  if (!description) return null;
  return ArrayBuffer.isView(description)
    ? new Uint8Array(description.buffer, description.byteOffset, description.byteLength).slice()
    : new Uint8Array(description).slice();
};

/** Encodes with the media library and takes the packets as they come; the file that it writes goes nowhere. */
export async function packetEncoder(
  format: OutputFormat,
  config: AudioEncodingConfig,
  sampleRate: number,
  channels: number,
): Promise<PacketEncoder> {
  let ready: Packet[] = [];
  let description: Uint8Array | null = null;
  let at = 0;
  const take = (): readonly Packet[] => {
    const packets = ready;
    ready = [];
    return packets;
  };
  const output = new Output({ format, target: new NullTarget() });
  const source = new AudioSampleSource({
    ...config,
    onEncodedPacket(packet: EncodedPacket, meta) {
      description ??= bytesOf(meta?.decoderConfig?.description);
      ready.push({ data: packet.data.slice(), duration: packet.duration });
    },
  });
  output.addAudioTrack(source);
  const close = async () => {
    if (output.state !== 'finalized') await output.cancel();
  };
  try {
    await output.start();
  } catch (error) {
    await close();
    throw error;
  }
  return {
    async push(block) {
      const frames = block[0]?.length ?? 0;
      const sample = new AudioSample({
        format: 'f32-planar',
        data: planar(block),
        numberOfChannels: channels,
        sampleRate,
        timestamp: at / sampleRate,
      });
      at += frames;
      try {
        await source.add(sample);
      } finally {
        sample.close();
      }
      return take();
    },
    async finish() {
      await output.finalize();
      return take();
    },
    description: () => description,
    close,
  };
}

/** Channel after channel in one array. */
function planar(block: readonly Float32Array[]): Float32Array {
  const frames = block[0]?.length ?? 0;
  const data = new Float32Array(frames * block.length);
  block.forEach((samples, channel) => {
    data.set(samples, channel * frames);
  });
  return data;
}
