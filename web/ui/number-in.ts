/** The number that a text says, with a comma or a point, spaces between its digits left aside; null if it is none. */
export function numberIn(text: string): number | null {
  const value = Number(text.replace(',', '.').replace(/\s/g, ''));
  return text.trim() !== '' && Number.isFinite(value) ? value : null;
}
