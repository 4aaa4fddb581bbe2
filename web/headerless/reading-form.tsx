import { encodingTitle, headerless, LARGEST_RATE, MOST_CHANNELS, type Reading } from '@tambur/core';
import type { ReactNode } from 'react';
import { NumberField } from '../ui/number-field.tsx';
import { OtherPcm } from '../ui/other-pcm.tsx';
import { Select } from '../ui/select.tsx';
import { bitsOf, isSampleBySample } from './readings.ts';

interface Props {
  readonly reading: Reading;
  /** Bytes of the file. */
  readonly size: number;
  readonly onChange: (reading: Reading) => void;
  /** What stands before the fields. */
  readonly children: ReactNode;
}

/** A reading by hand. */
export function ReadingForm({ reading, size, onChange, children }: Props) {
  const width = bitsOf(reading.encoding);
  const change = (part: Partial<Reading>) => onChange({ ...reading, ...part });
  return (
    <>
      <div className="mt-3 flex flex-wrap items-end gap-x-4 gap-y-3">
        {children}
        <div className="w-56">
          <Select
            label="Encoding"
            value={reading.encoding}
            options={[...new Set([...headerless.carries, reading.encoding])].map((id) => ({
              value: id,
              label: encodingTitle(id),
            }))}
            onChange={(encoding) => change({ encoding, bits: undefined })}
          />
        </div>
        <div className="w-28">
          <NumberField
            label="Channels"
            value={reading.channels}
            unit=""
            range={{ least: 1, most: MOST_CHANNELS }}
            onChange={(channels) => change({ channels })}
          />
        </div>
        <div className="w-36">
          <NumberField
            label="Sample rate"
            value={reading.sampleRate}
            unit="Hz"
            range={{ least: 1, most: LARGEST_RATE }}
            onChange={(sampleRate) => change({ sampleRate })}
          />
        </div>
        <div className="w-32">
          <NumberField
            label="Skip at the start"
            value={reading.skip ?? 0}
            unit="bytes"
            range={{ least: 0, most: Math.max(0, size - 1) }}
            onChange={(skip) => change({ skip })}
          />
        </div>
        {isSampleBySample(reading.encoding) && (
          <div className="w-32">
            <NumberField
              label="Bits used"
              value={reading.bits ?? width}
              unit={`of ${width}`}
              range={{ least: 1, most: width }}
              onChange={(bits) => change({ bits: bits === width ? undefined : bits })}
            />
          </div>
        )}
      </div>
      <div className="mt-3">
        <OtherPcm encoding={reading.encoding} onChange={(encoding) => change({ encoding, bits: undefined })} />
      </div>
    </>
  );
}
