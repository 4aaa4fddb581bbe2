import { askedRows, followingFrom, placesSchema, type Target, usualIn } from '@tambur/core';
import type { ReactNode } from 'react';
import { Controller, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { TextArea, TextField } from '../ui/field.tsx';
import { Select } from '../ui/select.tsx';
import { BlankList } from './blank-list.tsx';
import { FaceForm } from './face-form.tsx';
import { ListFiles, Packs } from './file-lists.tsx';
import { OptionalPart } from './optional-part.tsx';
import { PlaceLabels } from './place-labels-field.tsx';
import { PlayerForm } from './player-form.tsx';
import { NotAsked, RequirementRows } from './requirement-rows.tsx';
import { VariantList } from './variant-list.tsx';

interface Props {
  readonly form: UseFormReturn<FieldValues>;
  readonly draft: Target;
}

/** All that a sheet says, a section for each part of it. */
export function SheetSections({ form: { control, register, setValue }, draft }: Props) {
  const keys = [...draft.requirements, ...draft.lists, ...draft.packs].map(({ key }) => key);
  const isTaken = (key: string) => keys.includes(key);
  /** A part of the sheet by its name, as its own form edits it. */
  const part = <K extends keyof Target & string>(
    name: K,
    render: (value: Target[K], onChange: (value: unknown) => void) => ReactNode,
  ) => <Controller control={control} name={name} render={({ field }) => <>{render(field.value, field.onChange)}</>} />;
  return (
    <>
      <div className="grid gap-4 sm:grid-cols-[minmax(0,1fr)_auto]">
        <TextField label="Name" maxLength={60} {...register('name')} />
        {part('naming', (naming, onChange) => (
          <Select
            label="Between words of a name"
            value={naming.separator}
            onChange={(separator) => onChange({ ...naming, separator })}
            options={[
              { value: '-', label: 'hyphen' },
              { value: '_', label: 'underscore' },
            ]}
          />
        ))}
      </div>
      <div className="mt-4">
        <TextArea label="About the device" rows={2} maxLength={1000} {...register('about')} />
      </div>
      <Section
        title="Requirements"
        about="What the device takes, and what it does with anything else, as far as that is known."
      >
        <RequirementRows
          parts={draft}
          onChange={({ requirements, player }) => {
            setValue('requirements', requirements);
            setValue('player', player);
          }}
        />
        {part('without', (without, onChange) => (
          <NotAsked without={without} following={followingFrom(draft.player).requirements} onChange={onChange} />
        ))}
      </Section>
      <Section
        title="Questions"
        about="What belongs to a job, or to one clip, rather than to the device: its tempo, its memory, the size of the old sound. It is asked for, and what stands above is what is usual."
      >
        {part('blanks', (blanks, onChange) => (
          <BlankList sheet={draft} blanks={blanks} onChange={onChange} />
        ))}
      </Section>
      <Section title="Variants" about="For example older firmware: what it takes instead, or as well.">
        {part('variants', (variants, onChange) => (
          <VariantList variants={variants} requirements={draft.requirements} onChange={onChange} />
        ))}
      </Section>
      <Section title="Places">
        {part('places', (places, onChange) => (
          <>
            <OptionalPart
              label="The device has places: buttons, numbers, channels"
              schema={placesSchema}
              usual={{ ...usualIn(placesSchema), labels: {} }}
              value={places}
              onChange={onChange}
            />
            {places && <PlaceLabels labels={places.labels} onChange={(labels) => onChange({ ...places, labels })} />}
          </>
        ))}
      </Section>
      <Section title="Player" about="What else is known of the device. What follows from it is asked above.">
        {part('player', (player, onChange) => (
          <PlayerForm
            player={player}
            elsewhere={askedRows(draft).flatMap(({ traits }) => traits)}
            onChange={onChange}
          />
        ))}
        {part('face', (face, onChange) => (
          <FaceForm face={face} onChange={onChange} />
        ))}
      </Section>
      <Section title="List files">
        {part('lists', (lists, onChange) => (
          <ListFiles files={lists} onChange={onChange} isTaken={isTaken} />
        ))}
      </Section>
      <Section title="All sounds in one file">
        {part('packs', (packs, onChange) => (
          <Packs files={packs} onChange={onChange} isTaken={isTaken} />
        ))}
      </Section>
    </>
  );
}

interface SectionProps {
  readonly title: string;
  readonly about?: string;
  readonly children: ReactNode;
}

function Section({ title, about, children }: SectionProps) {
  return (
    <section aria-label={title} className="mt-8">
      <h2 className="text-lg font-semibold">{title}</h2>
      {about && <p className="text-sm text-graphite">{about}</p>}
      {children}
    </section>
  );
}
