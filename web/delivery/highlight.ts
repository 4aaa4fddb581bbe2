import c from 'highlight.js/lib/languages/c';
import json from 'highlight.js/lib/languages/json';
import python from 'highlight.js/lib/languages/python';
import rust from 'highlight.js/lib/languages/rust';
import xml from 'highlight.js/lib/languages/xml';
import { createLowlight } from 'lowlight';

/** A piece of a line, and what it is in its language: `comment`, `string`, `number`, `keyword`. */
export interface Token {
  readonly text: string;
  readonly kind: string;
}

const lowlight = createLowlight({ c, json, python, rust, xml });

/** Languages by the extensions of files. */
const LANGUAGES: Readonly<Record<string, string>> = {
  h: 'c',
  c: 'c',
  py: 'python',
  rs: 'rust',
  json: 'json',
  xml: 'xml',
};

type Nodes = ReturnType<typeof lowlight.highlight>['children'];

const tokensIn = (nodes: Nodes, kind: string): Token[] =>
  nodes.flatMap((node): Token[] => {
    if (node.type === 'text') return [{ text: node.value, kind }];
    if (node.type !== 'element') return [];
    const [name] = (node.properties.className as readonly string[] | undefined) ?? [];
    return tokensIn(node.children as Nodes, name?.replace('hljs-', '') ?? kind);
  });

/** A line in its parts; what belongs to no language that is known is one. */
export function highlighted(line: string, path: string): readonly Token[] {
  const language = LANGUAGES[path.slice(path.lastIndexOf('.') + 1).toLowerCase()];
  return language ? tokensIn(lowlight.highlight(language, line).children, '') : [{ text: line, kind: '' }];
}
