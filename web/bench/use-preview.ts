import type { ClipSettings, Target } from '@tambur/core';
import type { SourceView } from '@tambur/server';
import { useEffect, useState } from 'react';
import { previewWorker } from './preview-client.ts';
import type { Preview } from './preview-worker.ts';

/** The newest result of a clip. While a newer one is being made the last one stays, marked as such. */
export interface PreviewState {
  readonly made: Preview | null;
  readonly refused: string | null;
  readonly isCurrent: boolean;
}

interface Known {
  readonly clipId: string;
  readonly made: Preview | null;
  readonly refused: string | null;
  readonly settings: ClipSettings;
}

/** Renders a clip in the worker whenever its settings change. */
export function usePreview(
  clipId: string,
  source: SourceView,
  settings: ClipSettings,
  target: Target,
  stem: string,
): PreviewState {
  const [known, setKnown] = useState<Known | null>(null);

  useEffect(() => {
    let isStale = false;
    previewWorker()
      .preview({ source, settings, target, stem })
      .then(
        (outcome) => {
          if (isStale || !outcome) return;
          const made = 'made' in outcome ? outcome.made : null;
          setKnown({ clipId, settings, made, refused: 'refused' in outcome ? outcome.refused : null });
        },
        (error: unknown) => {
          if (!isStale) setKnown({ clipId, settings, made: null, refused: `The result could not be made: ${error}` });
        },
      );
    return () => {
      isStale = true;
    };
  }, [clipId, source, settings, target, stem]);

  const mine = known?.clipId === clipId ? known : null;
  return { made: mine?.made ?? null, refused: mine?.refused ?? null, isCurrent: mine?.settings === settings };
}
