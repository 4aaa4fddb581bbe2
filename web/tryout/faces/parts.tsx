import { Pause, Play, Square } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { Display } from './display.tsx';
import type { FaceProps } from './face.ts';

interface PanelProps extends Pick<FaceProps, 'performer' | 'entries'> {
  readonly title: string;
  readonly children: ReactNode;
}

/** A printed panel, ink on paper, with a display of what sounds. */
export function Panel({ title, performer, entries, children }: PanelProps) {
  return (
    <section aria-label={title} className="border-2 border-ink bg-sheet p-4">
      <h2 className="label">{title}</h2>
      <div className="mt-2 mb-3">
        <Display performer={performer} entries={entries} />
      </div>
      {children}
    </section>
  );
}

/** Ends whatever plays. */
export function Stop({ performer, playing }: Pick<FaceProps, 'performer' | 'playing'>) {
  return (
    <Button disabled={playing === null} onClick={() => performer.stop()}>
      <Square className="size-3.5" aria-hidden /> Stop
    </Button>
  );
}

/** A key of the device that plays something. */
export function SoundKey({
  label,
  isPlaying,
  isEmpty = false,
  onPress,
  children,
}: {
  label: string;
  isPlaying: boolean;
  isEmpty?: boolean;
  onPress: () => void;
  children: ReactNode;
}) {
  return (
    <Button
      kind="bare"
      aria-label={label}
      aria-pressed={isPlaying}
      disabled={isEmpty}
      onClick={onPress}
      className={`flex min-h-12 min-w-0 items-center gap-2 border px-3 py-2 text-left disabled:opacity-45 ${
        isPlaying ? 'border-pine bg-pine-tint' : 'border-rule hover:border-ink'
      }`}
    >
      {isPlaying ? (
        <Pause className="size-4 shrink-0 text-pine" aria-hidden />
      ) : (
        <Play className="size-4 shrink-0 text-graphite" aria-hidden />
      )}
      {children}
    </Button>
  );
}

/** A key that plays an entry, and ends it where it plays; with its number where the device has one. */
export function EntryKey({
  entry: { path, name },
  verb,
  number,
  performer,
  playing,
  around,
}: Pick<FaceProps, 'performer' | 'playing' | 'around'> & {
  entry: FaceProps['entries'][number];
  verb: string;
  number?: number;
}) {
  return (
    <SoundKey label={`${verb} ${name}`} isPlaying={playing === path} onPress={() => performer.toggle(path, around)}>
      {number !== undefined && <span className="figure min-w-6 text-graphite">{number}</span>}
      <span className="min-w-0 truncate">{name}</span>
    </SoundKey>
  );
}

/** Which entry a place has. */
export function PlaceChoice({
  label,
  place,
  entries,
  places,
  onPlace,
}: Pick<FaceProps, 'entries' | 'places' | 'onPlace'> & { label: string; place: number }) {
  return (
    <Select
      label={label}
      isLabelHidden
      value={places.get(place) ?? ''}
      onChange={(path) => onPlace(place, path === '' ? null : path)}
      options={[{ value: '', label: 'none' }, ...entries.map(({ path, name }) => ({ value: path, label: name }))]}
    />
  );
}

/** A lamp that is lit while the device is busy: a filled square, never colour alone. */
export function Lamp({ isLit, words }: { isLit: boolean; words: string }) {
  return (
    <p role="status" className="flex items-center gap-2 text-sm">
      <span aria-hidden className={`inline-block size-3 border border-ink ${isLit ? 'bg-pine' : ''}`} />
      {words}
    </p>
  );
}
