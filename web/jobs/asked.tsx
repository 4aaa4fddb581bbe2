import { askedBy, requirementText, type Values, withEntries, withUsual, withVariant } from '@tambur/core';
import type { SheetView } from '@tambur/server';
import { sheetOf } from '../job/sheets.ts';
import { variantIn } from '../job/variants.ts';
import { BlankFields } from '../targets/blank-fields.tsx';
import { Words } from './words.tsx';

interface Props {
  readonly sheet: SheetView;
  readonly variantId: string | null;
  readonly values: Values;
  readonly onChange: (values: Values) => void;
}

/** What a sheet wants to know of the job before it starts, and what it asks then. */
export function Asked({ sheet, variantId, values, onChange }: Props) {
  const edition = withVariant(sheetOf(sheet), variantIn(sheet, variantId));
  return (
    <>
      <div className="mt-3 flex flex-wrap gap-x-8 gap-y-2">
        <BlankFields
          sheet={edition}
          level="job"
          values={values}
          onChange={(blank, value) => onChange(withEntries(values, { [blank]: value }))}
        />
      </div>
      <Words words={askedBy(withUsual(edition, values)).map(requirementText)} />
    </>
  );
}
