// Writes the JSON Schemas of documents. Run: npm run schema
import { writeFileSync } from 'node:fs';
import { SCHEMAS } from './schemas.ts';

for (const { file, text } of Object.values(SCHEMAS)) writeFileSync(file, text());
