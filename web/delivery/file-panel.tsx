import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/react';
import { type Finding, findOutContainer, mendingStation, worstOf } from '@tambur/core';
import type { ArtifactView } from '@tambur/server';
import { Link } from 'react-router';
import { deliveryHrefs } from '../api/delivery-files.ts';
import { FactsLines } from '../shelf/facts-list.tsx';
import { FindingsTable } from '../ui/findings-table.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import { HexView } from './hex-view.tsx';
import { TextView } from './text-view.tsx';
import { findingsOf } from './verdicts.ts';

interface Props {
  readonly file: ArtifactView;
  readonly deliveryId: string;
  readonly jobId: string;
}

/** True for a file that people can read. */
export const isText = ({ role, parts }: ArtifactView): boolean =>
  role !== 'sound' ||
  findOutContainer(parts[0]?.facts.array ?? parts[0]?.facts.container ?? '')?.textOptions !== undefined;

const tab =
  'border-b-2 border-transparent px-2 py-1 text-graphite hover:text-ink data-selected:border-pine data-selected:font-semibold data-selected:text-ink';

/** One file of a delivery: what was found of it, what it is, its bytes and its text. */
export function FilePanel({ file, deliveryId, jobId }: Props) {
  const { path, parts, bytes, sha256 } = file;
  const findings = findingsOf(file);
  const worst = worstOf(findings);
  const facts = parts.length === 1 ? parts[0]?.facts : undefined;
  const href = deliveryHrefs.file(deliveryId, path);
  const views = [
    ...(findings.length ? ['Findings'] : []),
    ...(facts ? ['Facts'] : []),
    ...(isText(file) ? ['Text'] : []),
    'Bytes',
  ];
  return (
    <section aria-label={`About ${path}`} className="min-w-0">
      <h2 className="figure truncate text-lg font-semibold">{path}</h2>
      <p className="figure text-xs break-all text-graphite">SHA-256 {sha256}</p>
      <TabGroup key={path}>
        <TabList className="mt-3 flex gap-1 border-b border-hairline">
          {views.map((view) => (
            <Tab key={view} className={tab}>
              {view}
            </Tab>
          ))}
        </TabList>
        <TabPanels className="pt-3">
          {views.map((view) => (
            <TabPanel key={view}>
              {view === 'Findings' && (
                <>
                  <p className="flex items-center gap-2">
                    <VerdictMark verdict={worst} silent />
                    {worst === 'meets' ? `meets all ${findings.length} requirements` : `${worst} the sheet`}
                  </p>
                  <Mends findings={findings} jobId={jobId} clip={parts[0]?.clip} />
                  <FindingsTable findings={findings} />
                </>
              )}
              {view === 'Facts' && facts && <FactsLines facts={facts} name={path} />}
              {view === 'Text' && <TextView href={href} path={path} />}
              {view === 'Bytes' && <HexView href={href} size={bytes} facts={facts} />}
            </TabPanel>
          ))}
        </TabPanels>
      </TabGroup>
    </section>
  );
}

/** What does not meet the sheet, each with the way to the station that mends it. */
function Mends({ findings, jobId, clip }: { findings: readonly Finding[]; jobId: string; clip: string | undefined }) {
  const shown = findings.filter(({ verdict }) => verdict === 'breaks' || verdict === 'advises');
  return (
    <ul className="mt-2 grid gap-1">
      {shown.map(({ key, title, found, wanted, mend, verdict, requirement }) => {
        const station = mendingStation(requirement) ?? (requirement === 'headroom' ? 'level' : null);
        return (
          <li
            key={`${key} ${title}`}
            className={`border-l-4 px-2 py-1 text-sm ${verdict === 'breaks' ? 'border-brick bg-brick-tint' : 'border-saffron-mark bg-saffron-tint'}`}
          >
            {title}: <span className="figure">{found}</span>, wanted <span className="figure">{wanted}</span>
            {mend && `; mend: ${mend}`}{' '}
            {clip && (
              <Link to={`/jobs/${jobId}`} state={{ clip, station }} className="underline underline-offset-2">
                {station ? `Mend it at the station ${station}` : 'Go to the clip'}
              </Link>
            )}
          </li>
        );
      })}
    </ul>
  );
}
