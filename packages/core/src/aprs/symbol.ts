import { ALTERNATE_NAMES, PRIMARY_NAMES } from './symbol-names';

/** A map symbol: table (or overlay) and code, one character each. */
export interface Symbol {
  readonly table: string;
  readonly code: string;
}

/** Names that are drawn alike, by the drawing; what is in none is drawn as a plain mark. The drawings are ours. */
const DRAWN = {
  'aid station': ['aid station', 'red cross'],
  aircraft: ['small aircraft', 'large aircraft', 'helicopter', 'glider', 'aircraft, marked'],
  ambulance: ['ambulance'],
  antenna: ['dish antenna', 'directional antenna', 'direction finder', 'radios', 'hand-held radio'],
  area: ['area', 'box', 'triangle'],
  balloon: ['balloon'],
  bicycle: ['bicycle'],
  board: ['bulletin board'],
  boat: ['canoe', 'power boat', 'ship, marked', 'coast guard'],
  buoy: ['buoy'],
  bus: ['bus'],
  camp: ['camp site', 'scouts', 'girl scouts', 'park'],
  car: ['car', 'car, marked', 'off-road car', 'off-road vehicle, marked', 'van', 'van, marked', 'camper van'],
  church: ['church'],
  computer: ['file server', 'computer user', 'desktop computer', 'window computer', 'laptop', 'workstation computer'],
  digipeater: ['digipeater', 'digipeater, marked'],
  emergency: ['emergency'],
  fire: ['fire', 'fire station', 'fire engine', 'smoke', 'fire-net observation'],
  flooding: ['flooding'],
  gateway: ['short-wave gateway', 'gateway'],
  hospital: ['hospital'],
  house: ['house', 'house with short wave'],
  lighthouse: ['lighthouse'],
  motorcycle: ['motorcycle', 'snowmobile'],
  'net control': ['incident command post', 'emergency operations centre', 'civil defence'],
  node: ['network station', 'node', 'wireless network node', 'traffic station'],
  person: ['person'],
  pharmacy: ['pharmacy'],
  phone: ['phone'],
  police: ['police station', 'police car'],
  post: ['post office'],
  repeater: ['voice repeater', 'voice repeater with positions', 'voice link'],
  'sailing boat': ['sailing boat'],
  satellite: ['satellite', 'mobile satellite station'],
  school: ['school'],
  shelter: ['shelter', 'shelter (older)'],
  sign: ['sign', 'point of interest', 'information', 'waypoint'],
  storm: ['hurricane', 'predicted hurricane', 'tornado', 'funnel cloud'],
  store: ['store'],
  train: ['train'],
  truck: ['truck', 'articulated lorry', 'lorry, marked'],
  warning: ['crash site', 'advisory', 'wall cloud', 'gale', 'earthquake', 'work zone', 'wreck'],
  'water level': ['water station'],
  weather: [
    'weather station',
    'weather station, marked',
    'weather service',
    'weather service, marked',
    'storm spotter',
  ],
} as const;

/** What a symbol is drawn as, as far as the program draws it apart. */
export type SymbolMeaning = keyof typeof DRAWN | 'other';

const DRAWING: ReadonlyMap<string, SymbolMeaning> = new Map(
  Object.entries(DRAWN).flatMap(([drawing, names]) => names.map((name) => [name as string, drawing as SymbolMeaning])),
);

/** What a symbol stands for, in our words; null for a code of neither table. Overlays stand on the alternate table. */
export const symbolName = ({ table, code }: Symbol): string | null =>
  (table === '/' ? PRIMARY_NAMES[code] : ALTERNATE_NAMES[code]) ?? null;

export const symbolMeaning = (symbol: Symbol): SymbolMeaning => DRAWING.get(symbolName(symbol) ?? '') ?? 'other';

/** What an operator may be shown as, in the order of a choice: table and code in one text. */
export const OWN_SYMBOLS = ['/[', '/-', '/>', '/k', '/b', '/s', '/Y', '/c', '/K', '/h', '/r'] as const;

/** Table or overlay and code (Protocol Reference 1.0.1, ch. 20) out of a text of two characters; null when it is none. */
export function symbolOf(text: string): Symbol | null {
  return /^[/\\A-Z0-9][!-~]$/.test(text) ? { table: text[0]!, code: text[1]! } : null;
}

/** The name, and the characters where they add something. */
export function symbolInWords(symbol: Symbol): string {
  const name = symbolName(symbol);
  if (name === null || name === 'reserved') return `symbol ${symbol.table}${symbol.code}`;
  const overlay = symbol.table !== '/' && symbol.table !== '\\' ? `, with a ${symbol.table} on it` : '';
  return `${name.replace(/, marked$/, '')}${overlay}`;
}
