import { type Chain, formatCount, formatDb, type RenderReport, type StationId, worstOf } from '@tambur/core';
import { Button } from '../ui/button.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import { type PreviewState, saysAll } from './use-preview.ts';

interface Props {
  readonly chain: Chain | null;
  readonly preview: PreviewState;
  /** True if a station is open below: that all is well, the sheet beside it says. */
  readonly isLow: boolean;
  readonly onWay: (station: StationId, wish: unknown) => void;
  readonly onSheet: () => void;
}

/** Beside the result: whether the clip meets its sheet, and where it does not, what is wrong and the one next step. */
export function ClipVerdict({ chain, preview: { made, refused }, isLow, onWay, onSheet }: Props) {
  const obstacle = chain?.obstacles[0];
  const way = obstacle?.ways[0];
  const worst = made ? worstOf(made.findings) : null;
  const verdict = obstacle || refused ? 'breaks' : worst;
  const worstFinding = made?.findings.find((finding) => finding.verdict === worst);
  const troubles = made?.findings.filter((finding) => finding.verdict === worst).length ?? 0;
  const isMet = verdict === 'meets';
  /** All is well, and all of it is known. */
  const isSettled = isMet && made !== null && saysAll(made) && made.report.clippedFrames === 0;
  const words = obstacle
    ? obstacle.text
    : isMet || !worstFinding
      ? made && !saysAll(made)
        ? 'the sheet, as far as a piece tells'
        : 'the sheet'
      : `${worstFinding.title}: wanted ${worstFinding.wanted}, found ${worstFinding.found}`;
  return (
    <div
      className={`mt-1 flex min-h-7 flex-wrap items-center gap-x-2 gap-y-1 text-sm sm:flex-nowrap sm:whitespace-nowrap ${isLow && isSettled ? 'lg:max-wide:hidden' : ''}`}
      data-testid="clip-verdict"
    >
      {verdict && (
        <>
          <VerdictMark verdict={verdict} />{' '}
          {!refused && (
            <span className="min-w-0 sm:min-w-56 sm:shrink sm:truncate" title={words}>
              {words}
            </span>
          )}
          {way && (
            <Button
              kind="way"
              className="min-w-0 sm:truncate"
              title={way.label}
              onClick={() => onWay(way.station as StationId, way.wish)}
            >
              {way.label}
            </Button>
          )}
          {!isMet && !obstacle && worstFinding?.mend && (
            <span className="min-w-0 text-graphite sm:truncate">{worstFinding.mend}</span>
          )}
          {!isMet && (
            <Button kind="quiet" className="shrink-0 lg:hidden" onClick={onSheet}>
              {troubles > 1 ? `and ${troubles - 1} more` : 'Sheet'}
            </Button>
          )}
        </>
      )}
      {made && <Headroom report={made.report} />}
    </div>
  );
}

/** How much more gain would reach full scale, or what flattens. */
function Headroom({ report: { headroomDb, clippedFrames, limited } }: { report: Readonly<RenderReport> }) {
  if (headroomDb === null) return null;
  const isTrouble = clippedFrames > 0;
  return (
    <span className={`ml-auto shrink-0 ${isTrouble ? 'font-semibold text-brick' : 'text-graphite'}`}>
      {isTrouble ? (
        <>
          <span className="figure">{formatCount(clippedFrames)}</span> frames flattened
        </>
      ) : limited ? (
        'limited'
      ) : (
        <>
          headroom <span className="figure">{formatDb(headroomDb, 'dB')}</span>
        </>
      )}
    </span>
  );
}
