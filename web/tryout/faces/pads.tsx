import { type Circumstances, formatCount, traitWords } from '@tambur/core';
import { useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { Toggle } from '../../ui/toggle.tsx';
import { type FaceProps, optionOf } from './face.ts';
import { EntryKey, Panel, PlaceChoice, SoundKey, Stop } from './parts.tsx';

const SOFT = 0.35;

/** Seconds for which a finger that taps stays on a pad. */
const TAP = 0.12;

const EFFECTS = { length: 'Strike changes the length', pitch: 'Strike changes the pitch' } as const;

/** Pads that are struck softly or hard; each plays the entry of the stick that was put on it. */
export function Pads({ device, entries, options, performer, playing, around, places, onPlace }: FaceProps) {
  const count = optionOf(options, 'pads');
  const { voices = 1, canChange = [], muteGroups = 0 } = device.strikes ?? {};
  const [isMuted, setMuted] = useState(false);
  const [isTapped, setTapped] = useState(false);
  const [byStrike, setByStrike] = useState<Circumstances['byStrike']>([]);
  /** Mute groups of pads, by their numbers. */
  const [groups, setGroups] = useState<ReadonlyMap<number, number>>(new Map());
  const strike = (pad: number, path: string, velocity: number) => {
    if (isMuted) return;
    const circumstances = { ...around, velocity, byStrike, ...(isTapped ? { letGoAfter: TAP } : {}) };
    void performer.strike(path, circumstances, { voices, group: groups.get(pad) || null });
  };
  return (
    <Panel title="Pads" performer={performer} entries={entries}>
      <ul className="grid grid-cols-2 gap-3 md:grid-cols-4">
        {Array.from({ length: count }, (_, i) => i + 1).map((pad) => {
          const path = places.get(pad);
          return (
            <li key={pad} className="grid min-w-0 gap-1">
              <div className="grid grid-cols-[minmax(0,1fr)_auto]">
                <SoundKey
                  label={`Strike pad ${pad} hard`}
                  isPlaying={path !== undefined && playing === path}
                  isEmpty={path === undefined}
                  onPress={() => path !== undefined && strike(pad, path, 1)}
                >
                  <span className="figure">{pad}</span>
                </SoundKey>
                <Button
                  className="border-l-0"
                  disabled={path === undefined}
                  onClick={() => path !== undefined && strike(pad, path, SOFT)}
                >
                  softly<span className="sr-only"> on pad {pad}</span>
                </Button>
              </div>
              <PlaceChoice label={`Sound of pad ${pad}`} place={pad} {...{ entries, places, onPlace }} />
              {muteGroups > 0 && path !== undefined && (
                <Select
                  label={`Mute group of pad ${pad}`}
                  isLabelHidden
                  value={String(groups.get(pad) ?? 0)}
                  onChange={(group) => setGroups(new Map(groups).set(pad, Number(group)))}
                  options={Array.from({ length: muteGroups + 1 }, (_, group) => ({
                    value: String(group),
                    label: group === 0 ? 'no mute group' : `mute group ${formatCount(group)}`,
                  }))}
                />
              )}
            </li>
          );
        })}
      </ul>
      <p className="label mt-4">On the stick</p>
      <ul className="-mx-1 grid max-h-56 gap-1 overflow-y-auto p-1 sm:grid-cols-2">
        {entries.map((entry) => (
          <li key={entry.path} className="grid min-w-0">
            <EntryKey verb="Hear" {...{ entry, performer, playing, around }} />
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Toggle label="Mute" value={isMuted} onChange={setMuted} />
        {device['let-go'] === 'stops' && <Toggle label="Let go at once" value={isTapped} onChange={setTapped} />}
        {canChange.map((effect) => (
          <Toggle
            key={effect}
            label={EFFECTS[effect]}
            value={byStrike.includes(effect)}
            onChange={(isOn) =>
              setByStrike([...byStrike.filter((other) => other !== effect), ...(isOn ? [effect] : [])])
            }
          />
        ))}
        <Stop performer={performer} playing={playing} />
      </div>
      <p className="mt-2 text-sm text-graphite">{traitWords(device, 'strikes')}</p>
    </Panel>
  );
}
