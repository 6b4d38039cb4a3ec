/** What becomes of a text in plain letters. */
export interface Transliterated {
  readonly text: string;
  /** Each character that changed, once, with what stands for it. */
  readonly changed: readonly { readonly from: string; readonly to: string }[];
  /** Characters that nothing stands for: `?` in the text. */
  readonly lost: readonly string[];
}

/** What the standard does not take apart: letters with a stroke, ligatures, punctuation of printers. */
const LETTERS: Readonly<Record<string, string>> = {
  ß: 'ss',
  ẞ: 'SS',
  æ: 'ae',
  Æ: 'AE',
  œ: 'oe',
  Œ: 'OE',
  ø: 'o',
  Ø: 'O',
  ł: 'l',
  Ł: 'L',
  đ: 'd',
  Đ: 'D',
  ð: 'd',
  Ð: 'D',
  þ: 'th',
  Þ: 'TH',
  ħ: 'h',
  Ħ: 'H',
  ŧ: 't',
  Ŧ: 'T',
  ı: 'i',
  ŋ: 'ng',
  Ŋ: 'NG',
  '“': '"',
  '”': '"',
  '„': '"',
  '«': '"',
  '»': '"',
  '‘': "'",
  '’': "'",
  '‚': "'",
  '‐': '-',
  '‑': '-',
  '‒': '-',
  '–': '-',
  '—': '-',
  '−': '-',
  '⁄': '/',
  '€': 'EUR',
  '£': 'GBP',
  '°': 'deg',
  '×': 'x',
  '÷': '/',
  μ: 'u',
  '•': '*',
  '·': '*',
  '→': '->',
  '←': '<-',
  // What the format of a text keeps for itself.
  '{': '(',
  '}': ')',
  '|': '/',
  '~': '-',
};

/** Pictures that are written in a hurry, in a word. */
const PICTURES: Readonly<Record<string, string>> = {
  '👍': 'OK',
  '👌': 'OK',
  '👎': 'no',
  '✅': 'yes',
  '✔': 'yes',
  '❌': 'no',
  '🙏': 'thanks',
  '👋': 'hello',
  '❤': 'love',
  '🙂': ':)',
  '😀': ':)',
  '😊': ':)',
  '😉': ';)',
  '😢': ':(',
  '😟': ':(',
  '🆘': 'SOS',
  '⚠': 'caution',
  '🔥': 'fire',
  '🌊': 'flood',
  '💧': 'water',
  '⚡': 'power',
  '🌧': 'rain',
  '⛈': 'storm',
  '❄': 'snow',
  '☀': 'sun',
  '💨': 'wind',
  '🚑': 'ambulance',
  '🚒': 'fire engine',
  '🚓': 'police',
  '🚁': 'helicopter',
  '🚗': 'car',
  '🚚': 'truck',
  '⛵': 'boat',
  '🚤': 'boat',
  '⛴': 'ferry',
  '🏥': 'hospital',
  '🏠': 'house',
  '🏫': 'school',
  '⛽': 'fuel',
  '💊': 'medicine',
  '📞': 'phone',
  '📧': 'mail',
  '📍': 'at',
};

const isPlain = (character: string): boolean => /^[ -z]$/u.test(character) && character !== '{';
const CHARACTERS = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** What stands for one character in plain letters; null for nothing. */
function plainOf(character: string): string | null {
  // Variation selectors and skin colours say how a picture is drawn.
  const drawn = character.replace(/[\u{fe0e}\u{fe0f}\u{1f3fb}-\u{1f3ff}]/gu, '');
  const picture = PICTURES[drawn];
  if (picture !== undefined) return picture;
  let plain = '';
  for (const one of LETTERS[drawn] ?? drawn.normalize('NFKD')) {
    if (/\p{Mn}/u.test(one)) continue;
    const stands = isPlain(one) ? one : LETTERS[one];
    if (stands === undefined) return null;
    plain += stands;
  }
  return plain;
}

/**
 * A text in the plain letters that every set shows: marks are taken off as the Unicode standard takes letters apart (UAX #15, NFKD), and what it
 * leaves whole is written out. Line breaks become blanks.
 */
export function transliterate(text: string): Transliterated {
  const changed = new Map<string, string>();
  const lost = new Set<string>();
  let plain = '';
  for (const { segment } of CHARACTERS.segment(text)) {
    if (isPlain(segment)) {
      plain += segment;
      continue;
    }
    if (/^\s+$/u.test(segment)) {
      plain += ' ';
      continue;
    }
    const stands = plainOf(segment);
    if (stands === null) lost.add(segment);
    else changed.set(segment, stands);
    plain += stands ?? '?';
  }
  return { text: plain, changed: [...changed].map(([from, to]) => ({ from, to })), lost: [...lost] };
}
