/**
 * An island of radio as it is, which the planner never sees: its losses, its fading and its digipeaters share no code with what is reckoned.
 * Loss grows with the fourth power of distance (two rays over ground), each pair has a shadow of its own, and fades come and go by quarters
 * of an hour and from packet to packet. All invented.
 */
export interface WorldStation {
  readonly call: string;
  readonly x: number;
  readonly y: number;
  readonly role: 'us' | 'wide' | 'fill-in' | 'far';
  /** Decibels of power, height and antenna together, sending. */
  readonly sendsDb: number;
  /** The same, receiving. */
  readonly hearsDb: number;
  /** Share of its hours that it is on, in blocks of some hours. */
  readonly on: number;
  /** Whether it acknowledges texts at all. */
  readonly answers: boolean;
}

export interface World {
  readonly stations: readonly WorldStation[];
  readonly of: (call: string) => WorldStation;
  /** Whether one transmission of `from` is received by `to`; chances are from `draw`, so that two policies meet the same moments. */
  readonly heard: (from: string, to: string, atS: number, draw: string) => boolean;
  readonly isOn: (call: string, atS: number) => boolean;
}

const WIDTH_KM = 60;
const SHADOW_DB = 8;
const SLOW_DB = 3;
const FAST_DB = 4;
const SLOW_S = 900;
const BLOCK_S = 5 * 3600;
/** Others who send meanwhile, and sets that are busy. */
const COLLISION = 0.06;

/** A number from [0, 1) for a name: the same name, the same number. */
export function hashed(name: string): number {
  let h = 2166136261;
  for (let n = 0; n < name.length; n++) h = Math.imul(h ^ name.charCodeAt(n), 16777619);
  h ^= h >>> 15;
  h = Math.imul(h, 2246822519);
  h ^= h >>> 13;
  h = Math.imul(h, 3266489917);
  return ((h ^ (h >>> 16)) >>> 0) / 2 ** 32;
}

/** Of a normal distribution, for a name. */
const normal = (name: string): number =>
  Math.sqrt(-2 * Math.log(1 - hashed(`${name} a`))) * Math.cos(2 * Math.PI * hashed(`${name} b`));

export function createWorld(seed: string, far: number): World {
  const at = (call: string, spread: number) => ({
    x: WIDTH_KM * (0.5 + spread * (hashed(`${seed}${call}x`) - 0.5)),
    y: WIDTH_KM * (0.5 + spread * (hashed(`${seed}${call}y`) - 0.5)),
  });
  const stations: WorldStation[] = [
    { call: 'QT2AR-7', ...at('us', 0.4), role: 'us', sendsDb: -6, hearsDb: -3, on: 1, answers: true },
    ...[0, 1, 2].map((n): WorldStation => {
      const call = `QT0W${'ABC'[n]}-3`;
      return { call, ...at(call, 0.7), role: 'wide', sendsDb: 14, hearsDb: 13, on: 0.97, answers: false };
    }),
    ...[0, 1].map((n): WorldStation => {
      const call = `QT0F${'AB'[n]}-1`;
      return { call, ...at(call, 0.5), role: 'fill-in', sendsDb: 4, hearsDb: 4, on: 0.93, answers: false };
    }),
    ...Array.from({ length: far }, (_, n): WorldStation => {
      const call = `QT${1 + (n % 9)}${String.fromCharCode(65 + Math.floor(n / 9))}X`;
      const carried = hashed(`${seed}${call}carried`) < 0.3;
      return {
        call,
        ...at(call, 1),
        role: 'far',
        sendsDb: carried ? -5 : 2,
        hearsDb: carried ? -3 : 2,
        on: hashed(`${seed}${call}on`) < 0.25 ? 0.6 : 0.95,
        answers: hashed(`${seed}${call}answers`) > 0.1,
      };
    }),
  ];
  const byCall = new Map(stations.map((station) => [station.call, station]));
  const of = (call: string) => byCall.get(call)!;
  const isOn = (call: string, atS: number) => hashed(`${seed}${call}block${Math.floor(atS / BLOCK_S)}`) < of(call).on;
  const meanDb = new Map<string, number>();
  const marginDb = (from: string, to: string): number => {
    const key = `${from}>${to}`;
    const known = meanDb.get(key);
    if (known !== undefined) return known;
    const [a, b] = [of(from), of(to)];
    const km = Math.max(0.2, Math.hypot(a.x - b.x, a.y - b.y));
    const pair = [from, to].sort().join();
    // Two usual stations hear each other half the time at 14 km.
    const db = a.sendsDb + b.hearsDb - 40 * Math.log10(km / 14) + SHADOW_DB * normal(`${seed}${pair}shadow`);
    meanDb.set(key, db);
    return db;
  };
  return {
    stations,
    of,
    isOn,
    heard(from, to, atS, draw) {
      if (!isOn(from, atS) || !isOn(to, atS)) return false;
      const pair = [from, to].sort().join();
      const slow = SLOW_DB * normal(`${seed}${pair}slow${Math.floor(atS / SLOW_S)}`);
      const fast = FAST_DB * normal(`${seed}${from}${to}${draw}`);
      return marginDb(from, to) + slow + fast > 0 && hashed(`${seed}${to}${draw}clear`) >= COLLISION;
    },
  };
}
