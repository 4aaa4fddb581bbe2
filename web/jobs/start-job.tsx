import type { Values } from '@tambur/core';
import type { SheetView } from '@tambur/server';
import { AudioLines } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useBeginJob } from '../job/use-begin-job.ts';
import { deviceOf, variantIn, wordsOf } from '../job/variants.ts';
import { VariantChoice } from '../targets/variant-choice.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { useIsNarrow } from '../ui/use-narrow.ts';
import { Words } from './words.tsx';

const Select = lazy(async () => ({ default: (await import('../ui/select.tsx')).Select<string> }));

/** Needs the core, which the first view does without. */
const Asked = lazy(async () => ({ default: (await import('./asked.tsx')).Asked }));

/** The device chosen last is offered first. */
const LAST_TARGET = 'tambur.last-target';

/** Which device, then drop audio: the beginning of every job. */
export function StartJob({ targets }: { targets: readonly SheetView[] }) {
  const [targetId, setTargetId] = useState(() => {
    const last = localStorage.getItem(LAST_TARGET);
    return targets.find(({ id }) => id === last)?.id ?? targets[0]?.id ?? '';
  });
  const [variantId, setVariantId] = useState<string | null>(null);
  const [values, setValues] = useState<Values>({});
  const isNarrow = useIsNarrow();
  const job = useBeginJob();
  const sheet = targets.find(({ id }) => id === targetId);
  const words = sheet ? wordsOf(sheet, variantIn(sheet, variantId)) : [];

  const devices = targets.map(({ id, name }) => ({ value: id, label: name }));
  const choose = (id: string) => {
    setTargetId(id);
    setVariantId(null);
    setValues({});
  };

  const begin = (files: readonly File[]) => {
    if (!sheet) return;
    localStorage.setItem(LAST_TARGET, sheet.id);
    const name = deviceOf([sheet], { sheet: sheet.id, variant: variantId });
    job.begin({ ...sheet, name }, files, variantId, values);
  };

  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files) => files.length > 0 && begin(files),
    noClick: true,
    noKeyboard: true,
  });

  return (
    <section aria-labelledby="start" className="border-b border-hairline">
      <div className="mx-auto grid max-w-6xl gap-x-10 gap-y-5 px-4 py-7 sm:px-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)]">
        <div>
          <h2 id="start" className="text-2xl font-bold tracking-tight">
            Start a job
          </h2>
          <p className="mt-1 text-graphite">Choose the device that will play it, then drop the audio.</p>
          <div className="mt-4">
            {isNarrow ? (
              // So many devices would push the place to drop out of sight.
              // As high as what comes, so that nothing moves when it does.
              <Suspense fallback={<div className="h-15" />}>
                <Select label="Device" value={targetId} onChange={choose} options={devices} />
              </Suspense>
            ) : (
              <Choice name="Device" value={targetId} onChange={choose} options={devices} />
            )}
          </div>
          {sheet && (
            <>
              <div className="mt-3">
                <VariantChoice
                  target={sheet}
                  value={variantId}
                  onChange={(id) => {
                    setVariantId(id);
                    setValues({});
                  }}
                />
              </div>
              <p className="mt-3 max-w-prose text-sm">{sheet.about}</p>
              {sheet.blanks.length > 0 ? (
                <Suspense fallback={<Words words={words} />}>
                  <Asked sheet={sheet} variantId={variantId} values={values} onChange={setValues} />
                </Suspense>
              ) : (
                <Words words={words} />
              )}
            </>
          )}
        </div>
        <div
          {...getRootProps({
            className: `flex min-h-52 flex-col items-center justify-center gap-3 border-2 border-dashed p-6 text-center ${
              isDragActive ? 'border-pine bg-pine-tint' : 'border-rule bg-sheet'
            }`,
          })}
        >
          <input {...getInputProps({ 'aria-label': 'Audio files' })} />
          <AudioLines className="size-8 text-pine" strokeWidth={1.25} aria-hidden />
          <p className="text-lg font-semibold">Drop audio here</p>
          <p className="text-sm text-graphite">any audio or video file; several at once become several clips</p>
          <div className="flex flex-wrap justify-center gap-2">
            <Button kind="main" onClick={open} disabled={job.isPending}>
              Choose files
            </Button>
            <Button onClick={() => begin([])}>Start without audio</Button>
          </div>
        </div>
      </div>
    </section>
  );
}
