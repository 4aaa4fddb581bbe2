import { formatCount, NAME_FIELDS, nameByPattern, sourceOf } from '@tambur/core';
import { Tags } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { nameFromFile } from '../job/clip-edits.ts';
import type { JobStore } from '../job/job-store.ts';
import { Button } from '../ui/button.tsx';
import { TextField } from '../ui/field.tsx';
import { Modal } from '../ui/modal.tsx';

const PATTERN_KEY = 'tambur-name-pattern';
const USUAL = '{track} {title}';

/** Names all clips by a pattern, from the tags of their sources. */
export function NamesFromTags({ store }: { readonly store: JobStore }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button kind="quiet" onClick={() => setOpen(true)}>
        <Tags className="size-4" aria-hidden /> Names by a pattern …
      </Button>
      {isOpen && <PatternDialog store={store} onClose={() => setOpen(false)} />}
    </>
  );
}

function PatternDialog({ store, onClose }: { readonly store: JobStore; readonly onClose: () => void }) {
  const [pattern, setPattern] = useState(() => localStorage.getItem(PATTERN_KEY) ?? USUAL);
  const { clips } = useStore(store, ({ job }) => job);
  const sources = useStore(store, (state) => state.sources);
  const named = clips.flatMap((clip, i) => {
    const source = sources.get(sourceOf(clip));
    if (!source) return [];
    const file = nameFromFile(source.name);
    const name = nameByPattern(pattern, { tags: source.facts.tags, file, number: i + 1 }).slice(0, 120);
    return [{ clip, name }];
  });
  const changed = named.filter(({ clip, name }) => name !== '' && name !== clip.name);
  const empty = named.filter(({ name }) => name === '').length;
  const apply = () => {
    localStorage.setItem(PATTERN_KEY, pattern);
    store.getState().changeMany(new Map(changed.map(({ clip, name }) => [clip.id, { name }])));
    onClose();
  };
  return (
    <Modal
      title="Names by a pattern"
      onClose={onClose}
      actions={
        <Button kind="main" disabled={changed.length === 0} onClick={apply}>
          Name {formatCount(changed.length)} {changed.length === 1 ? 'clip' : 'clips'}
        </Button>
      }
    >
      <TextField
        label="Pattern"
        className="figure w-full"
        value={pattern}
        maxLength={120}
        spellCheck={false}
        onChange={({ target }) => setPattern(target.value)}
      />
      <p className="mt-2 text-sm text-graphite">
        Fields: <span className="figure">{NAME_FIELDS.map((field) => `{${field}}`).join(' ')}</span>. What a source has
        no tag for is left out.
      </p>
      <ul
        className="mt-3 max-h-64 overflow-y-auto border-t border-hairline text-sm"
        aria-label="Names as they would be"
      >
        {named.map(({ clip, name }) => (
          <li key={clip.id} className="grid grid-cols-2 gap-4 border-b border-hairline py-1">
            <span className="truncate text-graphite">{clip.name}</span>
            <span className="truncate">{name || <span className="text-saffron">stays: no such tag</span>}</span>
          </li>
        ))}
      </ul>
      {empty > 0 && (
        <p className="mt-2 text-sm text-saffron">
          {formatCount(empty)} {empty === 1 ? 'clip has' : 'clips have'} none of these tags and{' '}
          {empty === 1 ? 'keeps its name' : 'keep their names'}.
        </p>
      )}
    </Modal>
  );
}
