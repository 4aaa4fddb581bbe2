export * from './form-field.ts';
export * from './ids.ts';
export * from './range.ts';
export * from './schema-entries.ts';
