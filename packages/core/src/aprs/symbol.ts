/** A map symbol: table (or overlay) and code, one character each. */
export interface Symbol {
  readonly table: string;
  readonly code: string;
}

/** What a symbol means, as far as the program draws it apart. */
export type SymbolMeaning =
  | 'car'
  | 'house'
  | 'person'
  | 'weather'
  | 'digipeater'
  | 'gateway'
  | 'boat'
  | 'truck'
  | 'ambulance'
  | 'emergency'
  | 'other';

const PRIMARY: Readonly<Record<string, SymbolMeaning>> = {
  '>': 'car',
  j: 'car',
  '-': 'house',
  '[': 'person',
  _: 'weather',
  '#': 'digipeater',
  '&': 'gateway',
  Y: 'boat',
  s: 'boat',
  k: 'truck',
  a: 'ambulance',
};

/** Meaning of the codes listed in the APRS Protocol Reference 1.0.1, appendix 2, that we draw. */
export function symbolMeaning({ table, code }: Symbol): SymbolMeaning {
  if (table === '\\' && code === '!') return 'emergency';
  if (table !== '/' && (code === '#' || code === '&' || code === '_' || code === 's' || code === '>'))
    return PRIMARY[code] ?? 'other';
  return table === '/' ? (PRIMARY[code] ?? 'other') : 'other';
}
