import type { SourceView } from '@tambur/server';
import { type Manner, PITCH_RANGE, promptsOf, SPEED_RANGE, VOICES } from '@tambur/speech';
import { Play, Square } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { nameFromFile } from '../job/clip-edits.ts';
import { JobSelect, useJobChoice } from '../job/job-picker.tsx';
import { Button } from '../ui/button.tsx';
import { TextArea } from '../ui/field.tsx';
import { Modal } from '../ui/modal.tsx';
import { notify } from '../ui/notify.tsx';
import { Select } from '../ui/select.tsx';
import { Slider } from '../ui/slider.tsx';
import { Progress } from '../ui/states.tsx';
import { mannerFrom } from './kept-manner.ts';
import { useSpeaking } from './use-speaking.ts';

interface Props {
  readonly onClose: () => void;
  /** Called with what is new on the shelf. */
  readonly onKeep: (sources: readonly SourceView[]) => void;
  /** Where the prompts go beside the shelf: given by a view that has a job; without it the user chooses one. */
  readonly into?: string;
}

const MANNER = 'tambur.manner';

const times = (value: number) => `${value.toFixed(2)} ×`;

const LONGEST = 20_000;

/** Has prompts spoken, one for each line: hear them, keep them as sources, or make a set of clips of them. */
export function SpeakDialog({ onClose, onKeep, into }: Props) {
  const navigate = useNavigate();
  const choice = useJobChoice((jobId) => navigate(`/jobs/${jobId}`));
  const [text, setText] = useState('');
  const [manner, setManner] = useState(() => mannerFrom(localStorage.getItem(MANNER)));
  const { made, problem, keep: keepOnShelf, ...hearing } = useSpeaking(manner);
  const prompts = promptsOf(text);

  const change = (part: Partial<Manner>) => {
    const next = { ...manner, ...part };
    setManner(next);
    localStorage.setItem(MANNER, JSON.stringify(next));
  };

  /** All prompts as sources; none where one could not be spoken, which then is said. */
  const keepAll = async () => {
    const { kept, isWhole } = await keepOnShelf(prompts);
    if (kept.length) onKeep(kept);
    return isWhole ? kept : [];
  };
  const keep = async () => {
    const kept = await keepAll();
    if (kept.length === 0) return;
    notify(kept.length === 1 ? `${kept[0]?.name} is on the shelf` : `${kept.length} prompts are on the shelf`);
    onClose();
  };
  const makeClips = async () => {
    const kept = await keepAll();
    const clips = kept.map(({ id, name }) => ({ sourceId: id, name: nameFromFile(name) }));
    if (clips.length && (await choice.add(clips, 'Spoken prompts'))) onClose();
  };
  const isBusy = made !== null || choice.isPending;

  return (
    <Modal
      title="Speak"
      onClose={onClose}
      actions={
        <>
          {!into && (
            <div className="mr-auto flex items-end gap-2">
              <div className="w-56">
                <JobSelect choice={choice} />
              </div>
              <Button disabled={isBusy || prompts.length === 0} onClick={() => void makeClips()}>
                Make clips
              </Button>
            </div>
          )}
          <Button kind="main" disabled={isBusy || prompts.length === 0} onClick={() => void keep()}>
            {into ? `Add to ${into}` : prompts.length > 1 ? `Keep ${prompts.length} on the shelf` : 'Keep on the shelf'}
          </Button>
        </>
      }
    >
      <TextArea
        label="Prompts, one on each line"
        className="min-h-28"
        value={text}
        maxLength={LONGEST}
        data-autofocus
        placeholder={'Mind the doors, please.\nUpper station.'}
        onChange={(event) => setText(event.target.value)}
      />
      <MannerForm manner={manner} onChange={change} />
      {problem && (
        <p role="alert" className="mt-3 border-l-4 border-brick bg-brick-tint px-2 py-1">
          {problem}
        </p>
      )}
      {made && (
        <div className="mt-3">
          <Progress value={made.done / made.total} label="Prompts spoken">
            <p className="mt-1 text-sm text-graphite">
              speaking {made.done + 1} of {made.total} …
            </p>
          </Progress>
        </div>
      )}
      {prompts.length > 0 && <PromptList prompts={prompts} isDisabled={isBusy} {...hearing} />}
      <p className="mt-3 text-sm text-graphite">
        Spoken in English by a synthesiser on this machine; nothing leaves it.
      </p>
    </Modal>
  );
}

function MannerForm({ manner, onChange }: { manner: Manner; onChange: (part: Partial<Manner>) => void }) {
  return (
    <div className="mt-3 grid gap-4 sm:grid-cols-[1.5fr_1fr_1fr]">
      <Select
        label="Voice"
        value={manner.voice}
        options={VOICES.map(({ id, title }) => ({ value: id, label: title }))}
        onChange={(id) => onChange({ voice: id })}
      />
      <Slider
        label="Speed"
        shown={times(manner.speed)}
        value={manner.speed}
        range={SPEED_RANGE}
        step={0.05}
        onChange={(speed) => onChange({ speed })}
      />
      <Slider
        label="Pitch"
        shown={times(manner.pitch)}
        value={manner.pitch}
        range={PITCH_RANGE}
        step={0.05}
        onChange={(pitch) => onChange({ pitch })}
      />
    </div>
  );
}

interface PromptListProps {
  readonly prompts: readonly string[];
  readonly isDisabled: boolean;
  /** The prompt that sounds; null while none does. */
  readonly heard: string | null;
  readonly hear: (prompt: string) => Promise<void>;
  readonly stop: () => void;
}

function PromptList({ prompts, isDisabled, heard, hear, stop }: PromptListProps) {
  return (
    <ul className="mt-3 max-h-52 divide-y divide-hairline overflow-y-auto border-y border-hairline">
      {prompts.map((prompt, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: two lines may say the same
        <li key={i} className="flex items-center gap-2 py-1">
          <Button
            kind="quiet"
            disabled={isDisabled}
            aria-label={heard === prompt ? `Stop ${prompt}` : `Hear ${prompt}`}
            onClick={() => (heard === prompt ? stop() : void hear(prompt))}
          >
            {heard === prompt ? <Square className="size-4" aria-hidden /> : <Play className="size-4" aria-hidden />}
          </Button>
          <span className="min-w-0 flex-1 truncate">{prompt}</span>
        </li>
      ))}
    </ul>
  );
}
