import {
  askedBy,
  disagreements,
  faces,
  fieldOf,
  formatLength,
  isObservable,
  kindOf,
  limitInEffect,
  type Places,
  playerWords,
  type Requirement,
  type SheetEvidence,
  type Target,
  withVariant,
} from '@tambur/core';
import type { ReactNode } from 'react';
import { VariantChoice } from './variant-choice.tsx';

/** One line of a sheet. */
function Line({ title, note = '', children }: { title: string; note?: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[8rem_minmax(7rem,1fr)_minmax(0,auto)] gap-x-4 py-1.5">
      <dt className="text-graphite">{title}</dt>
      <dd className="figure min-w-0 font-medium break-words">{children}</dd>
      <dd className="text-sm text-graphite">{note}</dd>
    </div>
  );
}

function RequirementLine({ requirement, target }: { requirement: Requirement; target: Target }) {
  const kind = kindOf(requirement);
  const notes = [
    ...(requirement.advised ? ['advised'] : kind.scope === 'set' ? ['of the whole set'] : []),
    // Of a device of which nothing at all is known that would stand at every line.
    ...(requirement.advised || Object.keys(target.player).length === 0 || isObservable(target, requirement)
      ? []
      : ['otherwise: not known']),
  ];
  const note = notes.join(', ');
  return (
    <Line title={kind.title} note={note}>
      {kind.wanted(requirement)}
    </Line>
  );
}

const ESCAPE_WORDS = { none: '', csv: ', CSV', xml: ', XML' } as const;

/** A list file, or a file of all sounds: its path, and a row of it. */
function RowFile({ path, row, note = '' }: { path: string; row: string; note?: string }) {
  return (
    <>
      {path}
      {note}
      {row && (
        <span className="mt-1 block text-sm font-normal break-words whitespace-pre-line text-graphite">
          a row for each file: {row.replaceAll('\t', ' ⇥ ')}
        </span>
      )}
    </>
  );
}

const placesWords = ({ words, first, count }: Places) =>
  `${words.join(' or ')} ${first}${count ? ` to ${first + count - 1}` : ' and on'}`;

/** What a piece of evidence was, in words. */
const evidenceWords = ({ from, withdrawn }: SheetEvidence) => {
  const what =
    'sha256' in from
      ? `a file that ${from.played ? 'played' : 'did not play'}`
      : `the answer to ${from.file}: ${from.answer}`;
  return withdrawn ? `${what} (withdrawn)` : what;
};

interface Props {
  readonly target: Target;
  readonly variantId: string | null;
  readonly onVariant: (variantId: string | null) => void;
  readonly actions?: ReactNode;
}

/** A sheet to be read, in each of its variants. */
export function Sheet({ target, variantId, onVariant, actions }: Props) {
  const edition = withVariant(target, variantId);
  const { name, about, naming, lists, packs, places, blanks, face, evidence, player } = edition;
  const limit = limitInEffect(edition);
  const does = playerWords(player);
  return (
    <article className="min-w-0 border border-rule bg-sheet px-5 py-4">
      <div className="flex flex-wrap items-start gap-x-6 gap-y-2">
        <div className="min-w-0 basis-full sm:flex-1 sm:basis-0">
          <p className="label">Target sheet</p>
          <h2 className="text-xl font-bold tracking-tight">{name}</h2>
        </div>
        {actions}
      </div>
      <p className="mt-1 max-w-prose">{about}</p>
      {target.variants?.length ? (
        <div className="mt-3">
          <VariantChoice target={target} value={variantId} onChange={onVariant} />
        </div>
      ) : null}
      <dl className="mt-4 divide-y divide-hairline border-y border-ink">
        {askedBy(edition).map((requirement) => (
          <RequirementLine key={requirement.key} requirement={requirement} target={edition} />
        ))}
        {limit && <Line title="in effect">at most {formatLength(limit.frames, limit.sampleRate)}</Line>}
        <Line title="words in names">joined by {naming.separator}</Line>
        {places && (
          <Line title="places">
            {placesWords(places)}
            {Object.entries(places.labels).map(([place, label]) => (
              <span key={place} className="block text-sm font-normal text-graphite">
                {place}: {label}
              </span>
            ))}
          </Line>
        )}
        {lists.map(({ key, path, row, text, escape: kind }) => (
          <Line key={key} title="list file">
            <RowFile path={path} row={row} note={`, ${text}${ESCAPE_WORDS[kind]}`} />
          </Line>
        ))}
        {packs.map(({ key, path, row }) => (
          <Line key={key} title="all sounds in">
            <RowFile path={path} row={row} />
          </Line>
        ))}
        {blanks.map((blank) => (
          <Line key={blank.id} title="to be filled in" note={blank.level === 'clip' ? 'for each clip' : ''}>
            {blank.question} {blank.usual} {fieldOf(edition, blank)?.unit}
          </Line>
        ))}
        {does.length > 0 && (
          <Line title="the player">
            <span className="font-sans font-normal">{does.join('; ')}</span>
          </Line>
        )}
        {face && <Line title="operated by">{faces.find(({ id }) => id === face.id)?.title ?? face.id}</Line>}
        {evidence.map((entry) => (
          <Line key={entry.id} title="known from">
            <span className="font-sans font-normal">
              {evidenceWords(entry)}: {entry.keys.join(', ')}
            </span>
          </Line>
        ))}
      </dl>
      {disagreements(edition).map((sentence) => (
        <p key={sentence} className="mt-3 border-l-4 border-saffron-mark bg-saffron-tint px-3 py-2 text-sm">
          {sentence}
        </p>
      ))}
    </article>
  );
}
