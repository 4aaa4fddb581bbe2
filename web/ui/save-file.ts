/** Hands a text, or bytes, to the browser as a download. */
export function saveFile(name: string, type: string, content: string | Blob): void {
  const blob = typeof content === 'string' ? new Blob([content], { type: `${type};charset=utf-8` }) : content;
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The browser has taken it up by then.
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
