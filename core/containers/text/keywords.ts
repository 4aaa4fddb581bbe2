/** Words that C, C++, Python, Rust and assemblers keep for themselves and that a clip may well be called (their keyword lists; from memory). */
const OF_LANGUAGES = [
  'alignas alignof asm auto bool break case catch char class const constexpr continue default delete do double else',
  'enum explicit export extern false float for friend goto if inline int long mutable namespace new operator',
  'private protected public register restrict return short signed sizeof static struct switch template this throw',
  'true try typedef typename union unsigned using virtual void volatile while',
  'and as assert async await def del elif except finally from global import in is lambda None nonlocal not or pass raise',
  'True False with yield abstract become box crate dyn final fn impl let loop macro match mod move mut override priv pub',
  'ref Self self super trait type typeof unsafe unsized use where',
];

export const KEYWORDS: ReadonlySet<string> = new Set(OF_LANGUAGES.join(' ').split(' '));
