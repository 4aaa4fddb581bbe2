import { useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { Slider } from '../../ui/slider.tsx';
import { Toggle } from '../../ui/toggle.tsx';
import { type FaceProps, optionOf } from './face.ts';
import { Lamp, Panel, PlaceChoice, SoundKey, Stop } from './parts.tsx';

/** A knob through the channels, and events, each with its prompt; somebody may be talking. */
export function Channels({
  entries,
  options,
  performer,
  playing,
  around,
  onAround,
  places,
  labels,
  onPlace,
}: FaceProps) {
  const count = optionOf(options, 'channels');
  const [channel, setChannel] = useState(1);
  const events = Object.entries(labels).flatMap(([place, name]) =>
    Number(place) > count ? [{ place: Number(place), name }] : [],
  );
  const say = (place: number) => {
    const path = places.get(place);
    if (path === undefined) performer.stop();
    else void performer.run({ steps: [{ path, circumstances: around }] });
  };
  const turn = (to: number) => {
    setChannel(to);
    say(to);
  };
  return (
    <Panel title="Channels and events" performer={performer} entries={entries}>
      <div className="flex flex-wrap items-end gap-3">
        <Button aria-label="Channel down" disabled={channel <= 1} onClick={() => turn(channel - 1)}>
          −
        </Button>
        <div className="min-w-40 flex-1">
          <Slider
            label="Channel"
            value={channel}
            range={{ least: 1, most: count }}
            step={1}
            shown={String(channel)}
            onChange={turn}
          />
        </div>
        <Button aria-label="Channel up" disabled={channel >= count} onClick={() => turn(channel + 1)}>
          +
        </Button>
        <Button kind="main" onClick={() => turn(channel)}>
          Let it say the channel
        </Button>
        <Stop performer={performer} playing={playing} />
      </div>
      <div className="mt-3 max-w-80">
        <p className="label">Prompt of channel {channel}</p>
        <PlaceChoice label={`Prompt of channel ${channel}`} place={channel} {...{ entries, places, onPlace }} />
      </div>
      {events.length > 0 && (
        <>
          <p className="label mt-4">Events</p>
          <ul className="mt-1 grid gap-3 sm:grid-cols-3">
            {events.map(({ place, name }) => {
              const path = places.get(place);
              return (
                <li key={place} className="grid min-w-0 gap-1">
                  <SoundKey
                    label={`Event: ${name}`}
                    isPlaying={path !== undefined && playing === path}
                    isEmpty={path === undefined}
                    onPress={() => say(place)}
                  >
                    <span className="min-w-0 truncate">{name}</span>
                  </SoundKey>
                  <PlaceChoice label={`Prompt of the event: ${name}`} place={place} {...{ entries, places, onPlace }} />
                </li>
              );
            })}
          </ul>
        </>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-4">
        <Toggle
          label="Somebody is talking"
          value={around.isBusy === true}
          onChange={(isBusy) => onAround({ ...around, isBusy })}
        />
        <Lamp isLit={playing !== null} words={playing ? 'Speaking' : 'Quiet'} />
      </div>
    </Panel>
  );
}
