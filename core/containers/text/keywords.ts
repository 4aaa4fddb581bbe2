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

/** Name of the files of players, without extension. */
export const PLAYER_STEM = 'sound_player';

/** Names of files that stand beside sounds in source code: the player, and programs that are begun by their names. */
export const BESIDE_STEMS: readonly string[] = [PLAYER_STEM, 'main', 'lib', 'boot'];

/**
 * Names that players define, in any case, as languages write constants in capitals; and what every program in C has, or its compiler
 * knows by itself.
 */
const OF_PROGRAMS = new Set(
  [
    'sound sounds sound_player sound_cursor sound_entry sound_sequence sound_start sound_ended sound_next sound_tick sound_step',
    'sound_below sound_sequence_start sound_sequence_ended sound_sequence_next sound_ima_steps sound_oki_steps ima_steps oki_steps',
    'sound_read sound_write sound_rate sound_clock sound_prescaler sound_top sound_timer_top sound_count sound_player_h',
    'main null int8_t int16_t int32_t int64_t uint8_t uint16_t uint32_t uint64_t size_t',
    'abort abs acos alloca asin atan cabs calloc carg ceil cexp conj cos creal csin csqrt ctan erf exit exp fabs floor fma fmax',
    'fmin fmod free gamma hypot index isdigit islower isspace isupper labs lgamma log logb malloc memcmp memcpy memset modf',
    'pow printf putchar puts realloc rindex rint round scanf signbit sin sqrt strcat strchr strcmp strcpy strlen tan tgamma',
    'tolower toupper trunc y0 y1 yn j0 j1 jn',
  ]
    .join(' ')
    .split(' '),
);

/** True if a word cannot name an array in one of the languages, or beside its player. */
export const isKept = (word: string): boolean => KEYWORDS.has(word) || OF_PROGRAMS.has(word.toLowerCase());
