import type { Places } from '@tambur/core';
import { useState } from 'react';
import { TextArea } from '../ui/field.tsx';

type Labels = Places['labels'];

const LINE = /^\s*(\d{1,6})[\s:=]+(\S.*?)\s*$/;

const textOf = (labels: Labels) =>
  Object.entries(labels)
    .map(([number, label]) => `${number} ${label}`)
    .join('\n');

/** Names of places as they are typed, a line for each; null where a line is none. */
export function labelsIn(text: string): Labels | null {
  const lines = text.split('\n').filter((line) => line.trim() !== '');
  const found = lines.map((line) => LINE.exec(line));
  if (found.some((match) => match === null)) return null;
  return Object.fromEntries(found.map((match) => [String(Number(match?.[1])), (match?.[2] ?? '').slice(0, 200)]));
}

/** What single places of a device are called: "4 horn". */
export function PlaceLabels({ labels, onChange }: { labels: Labels; onChange: (labels: Labels) => void }) {
  const [text, setText] = useState(() => textOf(labels));
  const isGood = labelsIn(text) !== null;
  return (
    <div className="mt-2 max-w-md text-sm">
      <TextArea
        label="Names of single places, one in a line: 4 horn"
        rows={Math.min(8, Math.max(2, text.split('\n').length))}
        className="figure"
        invalid={!isGood}
        value={text}
        onChange={({ target }) => {
          setText(target.value);
          const found = labelsIn(target.value);
          if (found) onChange(found);
        }}
      />
      {!isGood && <p className="text-brick">Write a number and a name in each line.</p>}
    </div>
  );
}
