/** A map symbol: table (or overlay) and code, one character each. */
export interface Symbol {
  readonly table: string;
  readonly code: string;
}

/** What a symbol means, as far as the program draws it apart. The drawings are ours. */
export type SymbolMeaning =
  | 'aircraft'
  | 'ambulance'
  | 'balloon'
  | 'bicycle'
  | 'board'
  | 'boat'
  | 'bus'
  | 'car'
  | 'digipeater'
  | 'emergency'
  | 'fire'
  | 'flooding'
  | 'gateway'
  | 'hospital'
  | 'house'
  | 'motorcycle'
  | 'net control'
  | 'person'
  | 'phone'
  | 'police'
  | 'sailing boat'
  | 'satellite'
  | 'school'
  | 'shelter'
  | 'storm'
  | 'train'
  | 'truck'
  | 'warning'
  | 'water level'
  | 'weather'
  | 'other';

/** Codes of the primary table (Protocol Reference 1.0.1, appendix 2, from memory). */
const PRIMARY: Readonly<Record<string, SymbolMeaning>> = {
  '!': 'police',
  '#': 'digipeater',
  $: 'phone',
  '&': 'gateway',
  "'": 'aircraft',
  '-': 'house',
  '<': 'motorcycle',
  '=': 'train',
  '>': 'car',
  '@': 'storm',
  A: 'hospital',
  B: 'board',
  C: 'boat',
  K: 'school',
  O: 'balloon',
  S: 'aircraft',
  U: 'bus',
  X: 'aircraft',
  Y: 'sailing boat',
  '[': 'person',
  '^': 'aircraft',
  _: 'weather',
  a: 'ambulance',
  b: 'bicycle',
  c: 'net control',
  d: 'fire',
  f: 'fire',
  g: 'aircraft',
  h: 'hospital',
  j: 'car',
  k: 'truck',
  o: 'net control',
  r: 'digipeater',
  s: 'boat',
  u: 'truck',
  v: 'car',
  w: 'water level',
};

/** Codes of the alternate table and of symbols with an overlay (the same). */
const ALTERNATE: Readonly<Record<string, SymbolMeaning>> = {
  '!': 'emergency',
  '#': 'digipeater',
  '&': 'gateway',
  "'": 'warning',
  '-': 'house',
  '>': 'car',
  '@': 'storm',
  S: 'satellite',
  '[': 'warning',
  _: 'weather',
  a: 'digipeater',
  c: 'net control',
  h: 'hospital',
  k: 'car',
  o: 'net control',
  s: 'boat',
  u: 'truck',
  v: 'car',
  w: 'flooding',
  z: 'shelter',
};

/** Meaning of a symbol; the same meaning is drawn the same way whatever table it comes from. */
export const symbolMeaning = ({ table, code }: Symbol): SymbolMeaning =>
  (table === '/' ? PRIMARY[code] : ALTERNATE[code]) ?? 'other';

/** What an operator may be shown as, in the order of a choice: table and code in one text. */
export const OWN_SYMBOLS = ['/[', '/-', '/>', '/k', '/b', '/s', '/Y', '/c', '/K', '/h', '/r'] as const;

/** Table or overlay and code (Protocol Reference 1.0.1, ch. 20) out of a text of two characters; null when it is none. */
export function symbolOf(text: string): Symbol | null {
  return /^[/\\A-Z0-9][!-}]$/.test(text) ? { table: text[0]!, code: text[1]! } : null;
}

/** The meaning, and the characters where they add something. */
export function symbolInWords(symbol: Symbol): string {
  const meaning = symbolMeaning(symbol);
  const overlay = symbol.table !== '/' && symbol.table !== '\\' ? `, marked ${symbol.table}` : '';
  return `${meaning === 'other' ? `symbol ${symbol.table}${symbol.code}` : meaning}${overlay}`;
}
