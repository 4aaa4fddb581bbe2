import { formatDb, formatLength, formatRate, formatSeconds, type Pcm, toDb, wavFile } from '@tambur/core';
import { Circle, Play, Square } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { usePcmPlayer } from '../sound/pcm-player.ts';
import { RangeLane } from '../sound/range-lane.tsx';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { Modal } from '../ui/modal.tsx';
import { Select } from '../ui/select.tsx';
import { type Input, listInputs, type Microphone, openMicrophone } from './recorder.ts';

interface Props {
  readonly onKeep: (file: File) => void;
  readonly onClose: () => void;
}

type Phase =
  | { readonly kind: 'ready' }
  | { readonly kind: 'counting'; readonly left: number }
  | { readonly kind: 'recording'; readonly since: number }
  | { readonly kind: 'recorded'; readonly pcm: Pcm };

const COUNTDOWN = 3;
const INPUT = 'tambur.input';
/** The meter shows levels from here up to full scale, in dBFS. */
const METER_FLOOR = -60;
/** The meter falls by so much of its height a second. */
const FALL = 0.7;

const two = (value: number) => String(value).padStart(2, '0');

function nameNow(): string {
  const now = new Date();
  const day = `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
  return `Recording ${day} ${two(now.getHours())}.${two(now.getMinutes())}.${two(now.getSeconds())}`;
}

/** Records the microphone: level first, then a countdown, then the recording, of which the ends can be cut off. */
export function RecordDialog({ onKeep, onClose }: Props) {
  const [inputs, setInputs] = useState<readonly Input[]>([]);
  const [inputId, setInputId] = useState<string | null>(() => localStorage.getItem(INPUT));
  const [problem, setProblem] = useState<string | null>(null);
  const [phase, setPhase] = useState<Phase>({ kind: 'ready' });
  const [range, setRange] = useState({ start: 0, end: 0 });
  const [name, setName] = useState(nameNow);
  const microphone = useRef<Microphone | null>(null);
  const level = useRef({ peak: 0, at: 0 });
  const isOpen = phase.kind !== 'recorded';

  useEffect(() => {
    if (!isOpen) return;
    let isLate = false;
    setProblem(null);
    const hear = (peak: number) => {
      const now = performance.now();
      const fallen = level.current.peak - ((now - level.current.at) / 1000) * FALL;
      level.current = { peak: Math.max(peak, fallen, 0), at: now };
    };
    openMicrophone(inputId, hear)
      .then(async (opened) => {
        if (isLate) return opened.close();
        microphone.current = opened;
        setInputs(await listInputs());
      })
      .catch((error: Error) => !isLate && setProblem(error.message));
    return () => {
      isLate = true;
      microphone.current?.close();
      microphone.current = null;
    };
  }, [inputId, isOpen]);

  useEffect(() => {
    if (phase.kind !== 'counting') return;
    const timer = setTimeout(() => {
      if (phase.left > 1) return setPhase({ kind: 'counting', left: phase.left - 1 });
      microphone.current?.record();
      setPhase({ kind: 'recording', since: performance.now() });
    }, 1000);
    return () => clearTimeout(timer);
  }, [phase]);

  const stop = () => {
    const pcm = microphone.current?.finish();
    const frames = pcm?.channels[0]?.length ?? 0;
    if (!pcm || frames === 0) return setPhase({ kind: 'ready' });
    setRange({ start: 0, end: frames });
    setPhase({ kind: 'recorded', pcm });
  };
  const recorded = phase.kind === 'recorded' ? phase.pcm : null;
  const player = usePcmPlayer(recorded, range);
  const keep = () => {
    if (!recorded) return;
    const channels = recorded.channels.map((samples) => samples.subarray(range.start, range.end));
    const bytes = wavFile({ sampleRate: recorded.sampleRate, channels }, 24);
    onKeep(new File([bytes], `${name.trim() || nameNow()}.wav`, { type: 'audio/wav' }));
    onClose();
  };

  return (
    <Modal
      title="Record"
      onClose={onClose}
      actions={
        recorded ? (
          <>
            <Button onClick={() => setPhase({ kind: 'ready' })}>Record again</Button>
            <Button kind="main" onClick={keep}>
              Keep it
            </Button>
          </>
        ) : phase.kind === 'recording' ? (
          <Button kind="danger" data-autofocus onClick={stop}>
            <Square className="size-4" aria-hidden /> Stop
          </Button>
        ) : phase.kind === 'counting' ? (
          <Button onClick={() => setPhase({ kind: 'ready' })}>Cancel</Button>
        ) : (
          <Button
            kind="main"
            data-autofocus
            disabled={problem !== null || inputs.length === 0}
            onClick={() => setPhase({ kind: 'counting', left: COUNTDOWN })}
          >
            <Circle className="size-4" aria-hidden /> Record
          </Button>
        )
      }
    >
      {problem && (
        <p role="alert" className="mb-3 border-l-4 border-brick bg-brick-tint px-2 py-1">
          {problem}
        </p>
      )}
      {recorded ? (
        <>
          <RangeLane
            pcm={recorded}
            label="Waveform of the recording"
            range={range}
            onRange={(start, end) => setRange({ start, end })}
          />
          <div className="mt-2 flex flex-wrap items-center gap-3">
            <Button onClick={player.toggle}>
              {player.playing ? <Square className="size-3.5" aria-hidden /> : <Play className="size-3.5" aria-hidden />}
              {player.playing ? 'Stop' : 'Listen'}
            </Button>
            <span className="figure text-sm text-graphite">
              {formatRate(recorded.sampleRate)} {formatLength(range.end - range.start, recorded.sampleRate)}
            </span>
          </div>
          <div className="mt-3">
            <TextField label="Name" value={name} maxLength={120} onChange={(event) => setName(event.target.value)} />
          </div>
        </>
      ) : (
        <>
          <Select
            label="Input"
            value={inputId ?? inputs[0]?.id ?? ''}
            options={inputs.map(({ id, label }) => ({ value: id, label }))}
            onChange={(id) => {
              localStorage.setItem(INPUT, id);
              setInputId(id);
            }}
          />
          <Meter level={level} />
          <p className="mt-4 text-center text-3xl font-semibold" role="status">
            {phase.kind === 'counting' ? (
              phase.left
            ) : phase.kind === 'recording' ? (
              <Elapsed since={phase.since} />
            ) : (
              <span className="text-base font-normal text-graphite">
                Speak normally: the peaks should reach about −12 dBFS. A countdown of {COUNTDOWN} comes first.
              </span>
            )}
          </p>
        </>
      )}
    </Modal>
  );
}

/** Calls itself again with each picture of the screen. */
function useFrames(): void {
  const [, setTick] = useState(0);
  useEffect(() => {
    let handle = requestAnimationFrame(function next() {
      setTick((tick) => tick + 1);
      handle = requestAnimationFrame(next);
    });
    return () => cancelAnimationFrame(handle);
  }, []);
}

function Elapsed({ since }: { since: number }) {
  useFrames();
  return <span className="figure text-brick">{formatSeconds((performance.now() - since) / 1000)}</span>;
}

function Meter({ level }: { level: { readonly current: { readonly peak: number; readonly at: number } } }) {
  useFrames();
  const { peak, at } = level.current;
  const held = Math.max(0, peak - ((performance.now() - at) / 1000) * FALL);
  const db = held > 0 ? toDb(held) : Number.NEGATIVE_INFINITY;
  const share = Math.max(0, Math.min(1, 1 - db / METER_FLOOR));
  const tone = db > -1 ? 'bg-brick' : db > -6 ? 'bg-saffron-mark' : 'bg-pine';
  return (
    <div className="mt-4">
      <div className="flex items-baseline justify-between">
        <span className="label">Level</span>
        <span className="figure text-sm">{formatDb(db < METER_FLOOR ? Number.NEGATIVE_INFINITY : db, 'dBFS')}</span>
      </div>
      {/* biome-ignore lint/a11y/useSemanticElements: the browsers' own meter cannot be drawn in these colours */}
      <div
        role="meter"
        aria-label="Level"
        aria-valuemin={METER_FLOOR}
        aria-valuemax={0}
        aria-valuenow={Math.max(METER_FLOOR, Math.round(db))}
        className="mt-1 h-3 bg-hairline"
      >
        <div className={`h-full ${tone}`} style={{ width: `${share * 100}%` }} />
      </div>
    </div>
  );
}
