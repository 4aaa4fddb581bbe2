import { formatLength, kindOf, limitInEffect, type Target } from '@tambur/core';
import { Link, NavLink, useParams } from 'react-router';
import { useTargets } from '../api/queries.ts';
import { Failed, Loading } from '../ui/states.tsx';

/** Every sheet, one of them open, to be read. */
export function TargetsPage() {
  const targets = useTargets();
  const { targetId } = useParams();
  if (targets.error) return <Failed error={targets.error} retry={() => void targets.refetch()} />;
  if (!targets.data) return <Loading what="the sheets" />;
  const target = targetId === undefined ? targets.data[0] : targets.data.find(({ id }) => id === targetId);
  return (
    <div className="mx-auto grid w-full max-w-6xl gap-x-10 gap-y-5 px-4 py-6 sm:px-6 lg:grid-cols-[17rem_minmax(0,1fr)]">
      <nav aria-label="Target sheets">
        <h1 className="text-2xl font-bold tracking-tight">Targets</h1>
        <ul className="mt-3 border-t border-ink">
          {targets.data.map(({ id, name }) => (
            <li key={id} className="border-b border-hairline">
              <NavLink
                to={`/targets/${id}`}
                className={`block px-2 py-1.5 hover:bg-sheet ${id === target?.id ? 'border-l-4 border-pine bg-pine-tint font-semibold' : ''}`}
              >
                {name}
              </NavLink>
            </li>
          ))}
        </ul>
      </nav>
      {target ? <Sheet target={target} /> : <p>There is no sheet of that name.</p>}
    </div>
  );
}

function Sheet({ target }: { target: Target }) {
  const { id, name, about, requirements, naming, listFile } = target;
  const limit = limitInEffect(target);
  return (
    <article className="min-w-0 border border-rule bg-sheet px-5 py-4">
      <title>{`${name} – Tambur`}</title>
      <p className="label">Target sheet</p>
      <h2 className="text-xl font-bold tracking-tight">{name}</h2>
      <p className="mt-1 max-w-prose">{about}</p>
      <dl className="mt-4 divide-y divide-hairline border-y border-ink">
        {requirements.map((requirement) => {
          const kind = kindOf(requirement);
          return (
            <div key={JSON.stringify(requirement)} className="grid grid-cols-[8rem_minmax(0,1fr)_auto] gap-x-4 py-1.5">
              <dt className="text-graphite">{kind.title}</dt>
              <dd className="figure font-medium">{kind.wanted(requirement)}</dd>
              <dd className="text-sm text-graphite">
                {requirement.advised ? 'advised' : kind.scope === 'set' ? 'of the whole set' : ''}
              </dd>
            </div>
          );
        })}
        {limit && (
          <div className="grid grid-cols-[8rem_minmax(0,1fr)] gap-x-4 py-1.5">
            <dt className="text-graphite">in effect</dt>
            <dd className="figure font-medium">at most {formatLength(limit.frames, limit.sampleRate)}</dd>
          </div>
        )}
        <div className="grid grid-cols-[8rem_minmax(0,1fr)] gap-x-4 py-1.5">
          <dt className="text-graphite">names</dt>
          <dd>
            lower-case letters and digits, words joined by <span className="figure">{naming.separator}</span>
          </dd>
        </div>
        {listFile && (
          <div className="grid grid-cols-[8rem_minmax(0,1fr)] gap-x-4 py-1.5">
            <dt className="text-graphite">list file</dt>
            <dd className="figure min-w-0">
              {listFile.name}
              <span className="mt-1 block text-sm break-words text-graphite">
                a row for each file: {listFile.row.replaceAll('\t', ' ⇥ ')}
              </span>
            </dd>
          </div>
        )}
      </dl>
      <p className="mt-4">
        <Link to={`/check?target=${id}`} className="underline underline-offset-2">
          Try a file against this
        </Link>
      </p>
    </article>
  );
}
