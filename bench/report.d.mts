export const machine: string;
export function median(values: readonly number[]): number;
export function spread(values: readonly number[]): string;
export function writeSection(name: string, text: string, file?: string): void;
