// Writes the JSON Schema of target sheets. Run: npm run schema
import { writeFileSync } from 'node:fs';
import { SCHEMA_FILE, sheetSchema } from './sheet-schema.ts';

writeFileSync(SCHEMA_FILE, sheetSchema());
