import { useState } from 'react';
import { Choice } from '../../ui/choice.tsx';
import { Toggle } from '../../ui/toggle.tsx';
import { type FaceProps, optionOf } from './face.ts';
import { Panel, PlaceChoice, Stop } from './parts.tsx';

/** A switch of some positions; each says its sound when it comes there, again and again where that is wanted. */
export function SwitchPositions({
  device,
  folders,
  onFolder,
  entries,
  options,
  performer,
  playing,
  around,
  onAround,
  places,
  onPlace,
}: FaceProps) {
  const count = optionOf(options, 'positions');
  const pause = optionOf(options, 'repeats');
  const [position, setPosition] = useState<number | null>(null);
  const [isRepeating, setRepeating] = useState(false);
  const all = Array.from({ length: count }, (_, i) => i + 1);
  const move = (to: number) => {
    setPosition(to);
    const path = places.get(to);
    if (path === undefined) performer.stop();
    else {
      const step = { path, circumstances: around, ...(isRepeating ? { pause } : {}) };
      void performer.run({ steps: [step], isForever: isRepeating });
    }
  };
  return (
    <Panel title="Switch positions" performer={performer} entries={entries}>
      {folders.length > 1 && (
        <div className="mb-3">
          <Choice
            name="Language"
            value={device['looks-in']?.path ?? ''}
            onChange={onFolder}
            options={folders.map((folder) => ({ value: folder, label: folder }))}
          />
        </div>
      )}
      <Choice
        name="Position"
        value={position ?? 0}
        onChange={move}
        options={all.map((at) => ({ value: at, label: at }))}
      />
      <ul className="mt-3 grid gap-x-4 gap-y-2 sm:grid-cols-2">
        {all.map((at) => (
          <li key={at} className="grid grid-cols-[2rem_minmax(0,1fr)] items-center">
            <span className="figure">{at}</span>
            <PlaceChoice label={`Sound of position ${at}`} place={at} {...{ entries, places, onPlace }} />
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-center gap-4">
        <Toggle label={`Again every ${pause} s`} value={isRepeating} onChange={setRepeating} />
        <Toggle
          label="Quiet mode"
          value={around.isQuiet === true}
          onChange={(isQuiet) => onAround({ ...around, isQuiet })}
        />
        <Stop performer={performer} playing={playing} />
      </div>
    </Panel>
  );
}
