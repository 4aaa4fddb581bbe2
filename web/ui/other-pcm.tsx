import { DEPTH_RANGES, type PcmShape, pcmId, pcmShapeOf } from '@tambur/core';
import { Fold } from './fold.tsx';
import { NumberField } from './number-field.tsx';
import { Select } from './select.tsx';

/** Whole-number samples of any depth, and how they stand in bytes. */
export function OtherPcm({ encoding, onChange }: { encoding: string; onChange: (id: string) => void }) {
  const shape: PcmShape = pcmShapeOf(encoding) ?? {
    bits: 12,
    signed: false,
    bigEndian: false,
    left: false,
    packed: null,
  };
  const change = (next: Partial<PcmShape>) => onChange(pcmId({ ...shape, ...next }));
  const fills = shape.bits % 8 === 0;
  return (
    <Fold title="PCM of another depth or byte layout">
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-3">
        <NumberField
          label="Depth"
          unit="bit"
          value={shape.bits}
          range={DEPTH_RANGES.bits}
          onChange={(bits) => change({ bits })}
        />
        <Select
          label="Sign"
          value={shape.signed ? 'signed' : 'unsigned'}
          onChange={(value) => change({ signed: value === 'signed' })}
          options={[
            { value: 'signed', label: 'signed' },
            { value: 'unsigned', label: 'unsigned' },
          ]}
        />
        {shape.bits > 8 && !shape.packed && (
          <Select
            label="Byte order"
            value={shape.bigEndian ? 'big' : 'little'}
            onChange={(value) => change({ bigEndian: value === 'big' })}
            options={[
              { value: 'little', label: 'little-endian' },
              { value: 'big', label: 'big-endian' },
            ]}
          />
        )}
        {!fills && (
          <Select
            label="In its bytes"
            value={shape.packed ? `packed ${shape.packed}` : shape.left ? 'left' : 'right'}
            onChange={(value) =>
              change({
                left: value === 'left',
                packed: value === 'packed high' ? 'high' : value === 'packed low' ? 'low' : null,
              })
            }
            options={[
              { value: 'right', label: 'right-justified' },
              { value: 'left', label: 'left-justified' },
              { value: 'packed high', label: 'packed, high bit first' },
              { value: 'packed low', label: 'packed, low bit first' },
            ]}
          />
        )}
      </div>
    </Fold>
  );
}
