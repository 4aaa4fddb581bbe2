import { jobSchema, targetSchema } from '@tambur/core';
import { toJsonSchema } from '@valibot/to-json-schema';
import type * as v from 'valibot';

/** The JSON Schema of a document, made from the schema that reads it. Checks between two entries cannot be said in it. */
function schemaText(schema: v.GenericSchema<unknown, unknown>, title: string, description: string): string {
  const made = toJsonSchema(schema, {
    errorMode: 'ignore',
    typeMode: 'input',
    // What forms say is none of a file's business.
    overrideAction({ valibotAction, jsonSchema }) {
      if (valibotAction.type !== 'metadata') return undefined;
      const { form: _form, options: _options, ...rest } = jsonSchema as Record<string, unknown>;
      return rest;
    },
  });
  return `${JSON.stringify({ ...made, title, description }, null, 2)}\n`;
}

/** Every published schema: where the page's server offers it, and its text. */
export const SCHEMAS = {
  sheet: {
    file: 'web/public/target-sheet.schema.json',
    text: () => schemaText(targetSchema, 'Tambur target sheet', 'What a device accepts, written down as requirements.'),
  },
  job: {
    file: 'web/public/job.schema.json',
    text: () => schemaText(jobSchema, 'Tambur job', 'Clips that are made for a device, with what is wished for them.'),
  },
} as const;
