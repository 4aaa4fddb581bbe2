import type { ListFile } from '../targets/index.ts';

/** What a row of a list file can show. */
export interface ListRow {
  readonly displayName: string;
  readonly fileName: string;
  readonly frames: number;
  readonly bytes: number;
}

/** The text of a list file: header, one row for each file, footer; every line ends with a line feed. */
export function listFileText(listFile: ListFile, rows: readonly ListRow[]): string {
  const lines = [
    ...(listFile.header ? [listFile.header] : []),
    ...rows.map((row) =>
      listFile.row.replace(/\{(displayName|fileName|frames|bytes)\}/g, (_, field: keyof ListRow) => String(row[field])),
    ),
    ...(listFile.footer ? [listFile.footer] : []),
  ];
  return lines.map((line) => `${line}\n`).join('');
}
