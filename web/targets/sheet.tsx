import {
  formatLength,
  formatRate,
  kindOf,
  limitInEffect,
  type Requirement,
  type Target,
  withVariant,
} from '@tambur/core';
import type { ReactNode } from 'react';
import { EXTRAS, ORDERS, READS } from './player-words.ts';
import { VariantChoice } from './variant-choice.tsx';

/** One line of a sheet. */
function Line({ title, note = '', children }: { title: string; note?: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[8rem_minmax(0,1fr)_auto] gap-x-4 py-1.5">
      <dt className="text-graphite">{title}</dt>
      <dd className="figure min-w-0 font-medium break-words">{children}</dd>
      <dd className="text-sm text-graphite">{note}</dd>
    </div>
  );
}

function RequirementLine({ requirement }: { requirement: Requirement }) {
  const kind = kindOf(requirement);
  const note = requirement.advised ? 'advised' : kind.scope === 'set' ? 'of the whole set' : '';
  return (
    <Line title={kind.title} note={note}>
      {kind.wanted(requirement)}
    </Line>
  );
}

/** How the device reads, in words. */
function playerWords({ player }: Target): string {
  if (!player) return '';
  const { reads, extraChunks, order, longestName, playsAt, block, speaker } = player;
  const words = [
    READS[reads],
    EXTRAS[extraChunks],
    ORDERS[order],
    ...(longestName ? [`sees names of up to ${longestName} characters`] : []),
    ...(playsAt ? [`plays at ${formatRate(playsAt)} whatever is stated`] : []),
    ...(block ? [`takes ${block} frames at a time`] : []),
    `reproduces ${formatRate(speaker.low)} to ${formatRate(speaker.high)}`,
  ];
  return words.join('; ');
}

interface Props {
  readonly target: Target;
  readonly variantId: string | null;
  readonly onVariant: (variantId: string | null) => void;
  readonly actions?: ReactNode;
}

/** A sheet to be read, in each of its variants. */
export function Sheet({ target, variantId, onVariant, actions }: Props) {
  const { name, about, requirements, naming, listFile, slots, player } = withVariant(target, variantId);
  const limit = limitInEffect({ requirements });
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
        {requirements.map((requirement) => (
          <RequirementLine key={JSON.stringify(requirement)} requirement={requirement} />
        ))}
        {limit && <Line title="in effect">at most {formatLength(limit.frames, limit.sampleRate)}</Line>}
        <Line title="words in names">joined by {naming.separator}</Line>
        {slots && (
          <Line title="slots">
            {slots.word} {slots.first}
            {slots.count ? ` to ${slots.first + slots.count - 1}` : ' and on'}
          </Line>
        )}
        {listFile && (
          <Line title="list file">
            {listFile.name}
            <span className="mt-1 block text-sm font-normal break-words whitespace-pre-line text-graphite">
              a row for each file: {listFile.row.replaceAll('\t', ' ⇥ ')}
            </span>
          </Line>
        )}
        {player && (
          <Line title="the player">
            <span className="font-sans font-normal">{playerWords(target)}</span>
          </Line>
        )}
      </dl>
    </article>
  );
}
