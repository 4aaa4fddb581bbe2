import { valibotResolver } from '@hookform/resolvers/valibot';
import { type Target, targetSchema } from '@tambur/core';
import type { SheetView } from '@tambur/server';
import { useState } from 'react';
import { type FieldValues, type Resolver, useForm } from 'react-hook-form';
import { saveSheet, useRefreshSheets } from '../api/queries.ts';
import { sheetOf } from '../job/sheets.ts';
import { notify, notifyFailure } from '../ui/notify.tsx';
import { cleaned, textOf } from './sheet-draft.ts';

/** A sheet as it is being changed: its form, what it has become, whether that is saved, and how it is. */
export function useSheetDraft(view: SheetView) {
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
  const draft = cleaned(form.watch() as unknown as Target);
  const [saved, setSaved] = useState(() => textOf(cleaned(sheetOf(view))));
  const save = form.handleSubmit(async () => {
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
  return { form, draft, isDirty: textOf(draft) !== saved, save };
}
