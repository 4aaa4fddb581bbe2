import { valibotResolver } from '@hookform/resolvers/valibot';
import {
  placesSchema,
  type Requirement,
  type Target,
  targetSchema,
  usualIn,
  type Variant,
  withVariant,
} from '@tambur/core';
import type { SheetView } from '@tambur/server';
import { type KeyboardEvent, useEffect, useState } from 'react';
import { Controller, type FieldValues, type Resolver, useForm } from 'react-hook-form';
import { Link, useBlocker, useNavigate, useParams } from 'react-router';
import * as v from 'valibot';
import { saveSheet, useRefreshSheets, useTargets } from '../api/queries.ts';
import { sheetOf, withIds } from '../job/sheets.ts';
import { variantIn } from '../job/variants.ts';
import { Button } from '../ui/button.tsx';
import { Confirm } from '../ui/confirm.tsx';
import { TextArea, TextField } from '../ui/field.tsx';
import { notify, notifyFailure } from '../ui/notify.tsx';
import { Select } from '../ui/select.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { BlankList, withUsualInPlace } from './blank-list.tsx';
import { FaceForm } from './face-form.tsx';
import { ListFiles, Packs } from './file-lists.tsx';
import { OptionalPart } from './optional-part.tsx';
import { PlaceLabels } from './place-labels-field.tsx';
import { PlayerForm } from './player-form.tsx';
import { RequirementList } from './requirement-list.tsx';
import { Sheet } from './sheet.tsx';
import { TryFile } from './try-file.tsx';

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

/** What the form holds as a sheet: new variants get their ids, and what is left out is not there. */
function cleaned(values: Target): Target {
  const known = Object.entries(values).filter(([, entry]) => entry !== undefined);
  const sheet = { ...(Object.fromEntries(known) as Target), variants: withIds(values.variants) };
  return { ...sheet, blanks: withUsualInPlace(sheet) };
}

/** A sheet as a text by which two can be compared. */
const textOf = (sheet: Target) => JSON.stringify(Object.entries(sheet).sort(([a], [b]) => (a < b ? -1 : 1)));

function EditSheet({ view }: { view: SheetView }) {
  const navigate = useNavigate();
  const refresh = useRefreshSheets();
  const form = useForm<FieldValues>({
    defaultValues: sheetOf(view) as unknown as FieldValues,
    resolver: ((values, context, options) =>
      valibotResolver(targetSchema as never)(
        cleaned(values as unknown as Target) as never,
        context,
        options as never,
      )) as Resolver<FieldValues>,
    // What is wrong is said from the draft itself; the form asks once more when it is saved.
    mode: 'onSubmit',
  });
  const { register, control, watch, handleSubmit, formState } = form;
  const draft = cleaned(watch() as unknown as Target);
  const [saved, setSaved] = useState(() => textOf(cleaned(sheetOf(view))));
  const isDirty = textOf(draft) !== saved;
  const [chosen, setVariantId] = useState<string | null>(null);
  const checked = v.safeParse(targetSchema, draft);
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => isDirty && currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    const stay = (event: BeforeUnloadEvent) => isDirty && event.preventDefault();
    window.addEventListener('beforeunload', stay);
    return () => window.removeEventListener('beforeunload', stay);
  }, [isDirty]);

  const save = handleSubmit(async () => {
    try {
      await saveSheet(draft);
      setSaved(textOf(draft));
      form.setValue('variants', draft.variants);
      await refresh();
      notify(`${draft.name} saved`);
    } catch (error) {
      notifyFailure(error);
    }
  });
  const canSave = checked.success && isDirty && !formState.isSubmitting;
  // Enter takes what is typed into a field and does not save the sheet; Ctrl S does.
  const onKeyDown = (event: KeyboardEvent<HTMLFormElement>) => {
    const isSave = event.key === 's' && (event.ctrlKey || event.metaKey);
    if (isSave || (event.key === 'Enter' && event.target instanceof HTMLInputElement)) event.preventDefault();
    if (isSave && canSave) void save();
  };
  const keys = [...draft.requirements, ...draft.lists, ...draft.packs].map(({ key }) => key);
  const isTaken = (key: string) => keys.includes(key);
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
          <div className="grid gap-4 sm:grid-cols-[minmax(0,1fr)_auto]">
            <TextField label="Name" maxLength={60} {...register('name')} />
            <Controller
              control={control}
              name="naming.separator"
              render={({ field }) => (
                <Select<'-' | '_'>
                  label="Between words of a name"
                  value={field.value}
                  onChange={field.onChange}
                  options={[
                    { value: '-', label: 'hyphen' },
                    { value: '_', label: 'underscore' },
                  ]}
                />
              )}
            />
          </div>
          <div className="mt-4">
            <TextArea label="About the device" rows={2} maxLength={1000} {...register('about')} />
          </div>
          <h2 className="mt-6 text-lg font-semibold">Requirements</h2>
          <Controller
            control={control}
            name="requirements"
            render={({ field }) => (
              <RequirementList
                requirements={field.value as readonly Requirement[]}
                onChange={(next) => field.onChange(next)}
              />
            )}
          />
          <h2 className="mt-8 text-lg font-semibold">Questions</h2>
          <p className="text-sm text-graphite">
            What belongs to a job, or to one clip, rather than to the device: its tempo, its memory, the size of the old
            sound. It is asked for, and what stands above is what is usual.
          </p>
          <Controller
            control={control}
            name="blanks"
            render={({ field }) => <BlankList sheet={draft} blanks={field.value} onChange={field.onChange} />}
          />
          <h2 className="mt-8 text-lg font-semibold">Variants</h2>
          <p className="text-sm text-graphite">
            For example older firmware: its requirements take the place of the sheet's, or are added.
          </p>
          <Controller
            control={control}
            name="variants"
            render={({ field }) => (
              <VariantList
                variants={field.value as readonly Variant[]}
                requirements={draft.requirements}
                onChange={field.onChange}
              />
            )}
          />
          <h2 className="mt-8 text-lg font-semibold">Places</h2>
          <Controller
            control={control}
            name="places"
            render={({ field }) => (
              <>
                <OptionalPart
                  label="The device has places: buttons, numbers, channels"
                  schema={placesSchema}
                  usual={{ ...usualIn(placesSchema), labels: {} }}
                  value={field.value}
                  onChange={field.onChange}
                />
                {field.value && (
                  <PlaceLabels
                    labels={field.value.labels}
                    onChange={(labels) => field.onChange({ ...field.value, labels })}
                  />
                )}
              </>
            )}
          />
          <h2 className="mt-8 text-lg font-semibold">Player</h2>
          <p className="text-sm text-graphite">How the device reads a card, as far as it is known.</p>
          <Controller
            control={control}
            name="player"
            render={({ field }) => <PlayerForm player={field.value} onChange={field.onChange} />}
          />
          <Controller
            control={control}
            name="face"
            render={({ field }) => <FaceForm face={field.value} onChange={field.onChange} />}
          />
          <h2 className="mt-8 text-lg font-semibold">List files</h2>
          <Controller
            control={control}
            name="lists"
            render={({ field }) => <ListFiles files={field.value} onChange={field.onChange} isTaken={isTaken} />}
          />
          <h2 className="mt-8 text-lg font-semibold">All sounds in one file</h2>
          <Controller
            control={control}
            name="packs"
            render={({ field }) => <Packs files={field.value} onChange={field.onChange} isTaken={isTaken} />}
          />
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

interface VariantListProps {
  readonly variants: readonly Variant[];
  /** Of the sheet itself. */
  readonly requirements: readonly Requirement[];
  readonly onChange: (variants: readonly Variant[]) => void;
}

function VariantList({ variants, requirements: own, onChange }: VariantListProps) {
  const replace = (index: number, change: Partial<Variant>) =>
    onChange(variants.map((entry, i) => (i === index ? { ...entry, ...change } : entry)));
  return (
    <div className="mt-2 grid gap-5">
      {variants.map((variant, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a variant's name is what is being edited
        <section key={index} aria-label={`Variant ${variant.name}`} className="border-l-4 border-hairline pl-4">
          <div className="mb-2 flex items-end gap-3">
            <TextField
              label="Name of the variant"
              value={variant.name}
              maxLength={60}
              onChange={(event) => replace(index, { name: event.target.value })}
            />
            <Button onClick={() => onChange(variants.filter((_, i) => i !== index))}>Remove</Button>
          </div>
          <RequirementList
            requirements={variant.replace.requirements ?? []}
            instead={own}
            onChange={(requirements) =>
              replace(index, { replace: { ...variant.replace, requirements: [...requirements] } })
            }
          />
        </section>
      ))}
      <div>
        <Button onClick={() => onChange([...variants, { id: '', name: 'older firmware', replace: {}, without: [] }])}>
          Add a variant
        </Button>
      </div>
    </div>
  );
}
