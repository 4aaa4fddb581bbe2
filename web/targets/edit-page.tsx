import { targetSchema, withVariant } from '@tambur/core';
import type { SheetView } from '@tambur/server';
import { type KeyboardEvent, useEffect, useState } from 'react';
import { Link, useBlocker, useNavigate, useParams } from 'react-router';
import * as v from 'valibot';
import { useTargets } from '../api/queries.ts';
import { variantIn } from '../job/variants.ts';
import { Button } from '../ui/button.tsx';
import { Confirm } from '../ui/confirm.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { Sheet } from './sheet.tsx';
import { SheetSections } from './sheet-sections.tsx';
import { TryFile } from './try-file.tsx';
import { useSheetDraft } from './use-sheet-draft.ts';

/** A sheet of the user's own as a form. */
export function EditSheetPage() {
  const targets = useTargets();
  const { targetId } = useParams();
  if (targets.error) return <Failed error={targets.error} retry={() => void targets.refetch()} />;
  if (!targets.data) return <Loading what="the sheet" />;
  const view = targets.data.find(({ id }) => id === targetId);
  if (!view) return <Failed error={new Error('There is no sheet with that name.')} />;
  if (!view.isOwn) {
    return <Failed error={new Error(`${view.name} ships with Tambur; duplicate it and change the copy.`)} />;
  }
  return <EditSheet key={view.id} view={view} />;
}

/** Asks before what is not saved is left, in the page or with it. */
function useStay(isDirty: boolean) {
  useEffect(() => {
    const stay = (event: BeforeUnloadEvent) => isDirty && event.preventDefault();
    window.addEventListener('beforeunload', stay);
    return () => window.removeEventListener('beforeunload', stay);
  }, [isDirty]);
  return useBlocker(
    ({ currentLocation, nextLocation }) => isDirty && currentLocation.pathname !== nextLocation.pathname,
  );
}

function EditSheet({ view }: { view: SheetView }) {
  const navigate = useNavigate();
  const { form, draft, isDirty, save } = useSheetDraft(view);
  const [chosen, setVariantId] = useState<string | null>(null);
  const checked = v.safeParse(targetSchema, draft);
  const blocker = useStay(isDirty);
  const canSave = checked.success && isDirty && !form.formState.isSubmitting;
  // Enter takes what is typed into a field and does not save the sheet; Ctrl S does.
  const onKeyDown = (event: KeyboardEvent<HTMLFormElement>) => {
    const isSave = event.key === 's' && (event.ctrlKey || event.metaKey);
    if (isSave || (event.key === 'Enter' && event.target instanceof HTMLInputElement)) event.preventDefault();
    if (isSave && canSave) void save();
  };
  const jobs = view.usedBy.map(({ title }) => title).join(', ');

  return (
    <form onSubmit={save} onKeyDown={onKeyDown} className="mx-auto w-full max-w-7xl px-4 py-6 sm:px-6">
      <title>{`Edit ${view.name} – Tambur`}</title>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="min-w-0 flex-1 text-2xl font-bold tracking-tight">Edit a target sheet</h1>
        <span role="status" className="text-sm text-graphite">
          {isDirty ? 'not saved yet' : 'saved'}
        </span>
        <Button onClick={() => navigate(`/targets/${view.id}`)}>Close</Button>
        <Button kind="main" type="submit" title="Save (Ctrl S)" disabled={!canSave}>
          Save
        </Button>
      </div>
      {jobs && (
        <p className="mt-3 border-l-4 border-saffron-mark bg-saffron-tint px-3 py-2 text-sm">
          In use: saving changes what {jobs} will be built for. Deliveries that are there keep their record of the sheet
          as it was.
        </p>
      )}
      {!checked.success && (
        <p role="alert" className="mt-3 border-l-4 border-brick bg-brick-tint px-3 py-2 text-sm">
          Not complete yet: {checked.issues[0].message}
        </p>
      )}
      <div className="mt-4 grid gap-x-10 gap-y-6 xl:grid-cols-[minmax(0,1fr)_26rem]">
        <div className="min-w-0">
          <SheetSections form={form} draft={draft} />
        </div>
        <aside className="min-w-0 xl:sticky xl:top-4 xl:self-start" aria-label="The sheet as it will be read">
          {checked.success ? (
            <>
              <Sheet target={checked.output} variantId={variantIn(checked.output, chosen)} onVariant={setVariantId} />
              <TryFile target={withVariant(checked.output, variantIn(checked.output, chosen))} />
            </>
          ) : (
            <p className="text-sm text-graphite">The sheet appears here as soon as it is complete.</p>
          )}
          <p className="mt-3 text-sm">
            <Link to={`/targets/${view.id}`} className="underline underline-offset-2">
              Back to the sheets
            </Link>
          </p>
        </aside>
      </div>
      {blocker.state === 'blocked' && (
        <Confirm
          title="Leave without saving?"
          text="Your changes to this sheet will be lost."
          action="Leave"
          refusal="Stay"
          onConfirm={() => blocker.proceed()}
          onClose={() => blocker.reset()}
        />
      )}
    </form>
  );
}
