import type { ListFile } from './list-file.ts';

const ENTITIES = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&apos;' } as const;

/** A value as it stands in a list: XML 1.0, section 2.4; CSV as RFC 4180 has it. */
export const ESCAPED: Readonly<Record<ListFile['escape'], (value: string) => string>> = {
  none: (value) => value,
  csv: (value) => (/[",;\r\n]/.test(value) ? `"${value.replaceAll('"', '""')}"` : value),
  xml: (value) => value.replace(/[&<>"']/g, (char) => ENTITIES[char as keyof typeof ENTITIES]),
};

/** The same read back. */
export const UNESCAPED: Readonly<Record<ListFile['escape'], (text: string) => string>> = {
  none: (text) => text,
  csv: (text) => (/^".*"$/s.test(text) ? text.slice(1, -1).replaceAll('""', '"') : text),
  xml: (text) =>
    Object.entries(ENTITIES)
      .reverse()
      .reduce((rest, [char, entity]) => rest.replaceAll(entity, char), text),
};
