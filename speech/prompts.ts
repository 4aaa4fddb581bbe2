/** The prompts of a text: one for each line that says something. */
export const promptsOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');

/** Longest name that is made from words. */
const LONGEST = 60;

/** A source's name from its words: "Mind the doors, please." becomes "Mind the doors, please.wav". */
export function nameOfPrompt(prompt: string): string {
  const words = prompt
    .replace(/[/\\:*?"<>|]+/g, ' ')
    .replace(/\s+/g, ' ')
    .replace(/[.!?\s]+$/, '');
  const short =
    words.length <= LONGEST
      ? words
      : words.slice(0, words.lastIndexOf(' ', LONGEST) > 0 ? words.lastIndexOf(' ', LONGEST) : LONGEST);
  return `${short.trim() || 'Prompt'}.wav`;
}
