import { targetSchema } from '@tambur/core';
import { toJsonSchema } from '@valibot/to-json-schema';

/** Where the page's server offers it. */
export const SCHEMA_FILE = 'web/public/target-sheet.schema.json';

/** The JSON Schema of target sheets, made from the schema that reads them. Checks between two entries cannot be said in it. */
export function sheetSchema(): string {
  const schema = toJsonSchema(targetSchema, { errorMode: 'ignore', typeMode: 'input' });
  const named = {
    ...schema,
    title: 'Tambur target sheet',
    description: 'What a device accepts, written down as requirements.',
  };
  return `${JSON.stringify(named, null, 2)}\n`;
}
