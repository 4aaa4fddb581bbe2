/** ASCII text as bytes; core has no text encoder. Other characters become a question mark. */
export const asciiBytes = (text: string): Uint8Array =>
  Uint8Array.from(text, (char) => (char.charCodeAt(0) < 128 ? char.charCodeAt(0) : 0x3f));

/** Bytes as text, one character each (Latin-1), without trailing zeros. Decoded in pieces, as calls have an argument limit. */
export function latin1(bytes: Uint8Array): string {
  let text = '';
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return text.replace(/\0+$/, '');
}

/** Text as bytes, one for each character (Latin-1). Other characters become a question mark. */
export const latin1Bytes = (text: string): Uint8Array =>
  Uint8Array.from(text, (char) => (char.charCodeAt(0) < 256 && char.length === 1 ? char.charCodeAt(0) : 0x3f));
