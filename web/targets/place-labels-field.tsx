import { useState } from 'react';
import { TextArea } from '../ui/field.tsx';
import { type Labels, labelsIn, labelText } from './place-labels.ts';

/** What single places of a device are called: "4 horn". */
export function PlaceLabels({ labels, onChange }: { labels: Labels; onChange: (labels: Labels) => void }) {
  const [text, setText] = useState(() => labelText(labels));
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
