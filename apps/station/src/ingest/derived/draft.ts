import type { StationState } from './station-state';

/** A state that is being folded: whoever folds it owns it, and it is changed in its place. */
export type Draft = { -readonly [K in keyof StationState]: StationState[K] };

const NUMBERS = [
  'firstAtMs',
  'lastAtMs',
  'howAtMs',
  'directAtMs',
  'relaysAtMs',
  'positionAtMs',
  'latitude',
  'longitude',
  'courseDeg',
  'speedKnots',
  'altitudeM',
  'statusAtMs',
  'weatherAtMs',
  'telemetryAtMs',
] as const satisfies readonly (keyof StationState)[];

/**
 * Its times and places lie in one array, where NaN stands for null: a number with a fraction, or a moment, that is written into a
 * property is an object of its own, and of twenty thousand stations each would outlive many rounds of the collector.
 */
class Folding implements Omit<Draft, (typeof NUMBERS)[number]> {
  readonly numbers = new Float64Array(NUMBERS.length);
  readonly call: string;
  readonly kind: Draft['kind'];
  name: string;
  owner: string | null;
  live: boolean;
  conflict: string | null;
  how: Draft['how'];
  via: readonly string[];
  words: string;
  bearerId: string | null;
  bearers: readonly string[];
  messaging: boolean | null;
  ambiguity: number;
  symbol: string | null;
  comment: string | null;
  frequency: Draft['frequency'];
  status: string | null;
  message: string | null;
  packets: number;
  moves: number;
  doubt: Draft['doubt'];

  constructor(state: StationState) {
    this.call = state.call;
    this.kind = state.kind;
    this.name = state.name;
    this.owner = state.owner;
    this.live = state.live;
    this.conflict = state.conflict;
    this.how = state.how;
    this.via = state.via;
    this.words = state.words;
    this.bearerId = state.bearerId;
    this.bearers = state.bearers;
    this.messaging = state.messaging;
    this.ambiguity = state.ambiguity;
    this.symbol = state.symbol;
    this.comment = state.comment;
    this.frequency = state.frequency;
    this.status = state.status;
    this.message = state.message;
    this.packets = state.packets;
    this.moves = state.moves;
    this.doubt = state.doubt;
    NUMBERS.forEach((name, i) => (this.numbers[i] = state[name] ?? NaN));
  }

  /** As it is stored. Name by name: what is spread, or filled in by names, becomes a table, many times as large and slow. */
  toJSON(): StationState {
    const one = this as unknown as StationState;
    return {
      call: one.call,
      kind: one.kind,
      name: one.name,
      owner: one.owner,
      live: one.live,
      conflict: one.conflict,
      firstAtMs: one.firstAtMs,
      lastAtMs: one.lastAtMs,
      howAtMs: one.howAtMs,
      how: one.how,
      via: one.via,
      words: one.words,
      bearerId: one.bearerId,
      bearers: one.bearers,
      directAtMs: one.directAtMs,
      relaysAtMs: one.relaysAtMs,
      messaging: one.messaging,
      positionAtMs: one.positionAtMs,
      latitude: one.latitude,
      longitude: one.longitude,
      ambiguity: one.ambiguity,
      symbol: one.symbol,
      courseDeg: one.courseDeg,
      speedKnots: one.speedKnots,
      altitudeM: one.altitudeM,
      comment: one.comment,
      frequency: one.frequency,
      status: one.status,
      statusAtMs: one.statusAtMs,
      message: one.message,
      weatherAtMs: one.weatherAtMs,
      telemetryAtMs: one.telemetryAtMs,
      packets: one.packets,
      moves: one.moves,
      doubt: one.doubt,
    };
  }
}

for (const [i, name] of NUMBERS.entries())
  Object.defineProperty(Folding.prototype, name, {
    get(this: Folding) {
      const value = this.numbers[i]!;
      return Number.isNaN(value) ? null : value;
    },
    set(this: Folding, value: number | null) {
      this.numbers[i] = value ?? NaN;
    },
  });

/** A state to be folded into; what it is made of is left as it was. */
export const draftOf = (state: StationState): Draft => new Folding(state) as unknown as Draft;
