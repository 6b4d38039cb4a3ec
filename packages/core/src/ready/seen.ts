import { elementForm } from '../aprs/element';

/** What the station can say of itself, at one time. Times are UTC, ISO 8601; null where it never was. */
export interface StationSees {
  readonly now: string;
  readonly licenceConfirmed: boolean;
  /** Why nothing goes out, in words; empty when it may. */
  readonly locks: readonly string[];
  readonly held: boolean;
  /** The modem that is looked at; null without one. */
  readonly modem: {
    readonly name: string;
    readonly enabled: boolean;
    readonly up: boolean;
    /** Why it is not up. */
    readonly reason: string | null;
    /** What came from it in the last ten minutes. */
    readonly frames: number;
    readonly garbled: number;
    readonly lines: number;
    readonly tunedMHz: number | null;
    readonly path: readonly string[];
  } | null;
  /** Packet channel of the region; null where none is known. */
  readonly regionMHz: number | null;
  /** Digipeaters that the path names, with when each was heard last. */
  readonly named: readonly { readonly call: string; readonly heardAt: string | null }[];
  readonly positionKnown: boolean;
  readonly positionSentAt: string | null;
  readonly positionRepeatedAt: string | null;
  readonly ownRepeatedAt: string | null;
  readonly gatewayHeardAt: string | null;
  /** Digits that were left blank in the last position that was sent; null without one. */
  readonly ambiguity: number | null;
  readonly room: boolean;
  readonly mesh: {
    readonly up: boolean;
    readonly reason: string | null;
    readonly regionSet: boolean;
    /** Since when it answers; null while it does not. */
    readonly upSince: string | null;
  } | null;
}

/** An outcome that needs nobody to look. */
export interface Seen {
  readonly testId: string;
  readonly outcomeId: string;
  readonly words: string;
}

const LATELY_MS = 30 * 60_000;
const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
/** Fewer octets without sense are noise, which any receiver hears. */
const LEAST_GARBLED = 5;

const within = (at: string | null, now: string, ms: number): boolean =>
  at !== null && Date.parse(now) - Date.parse(at) <= ms;

/** Outcomes of tests that the station sees by itself; what it cannot be sure of is left to be asked. */
export function seenOutcomes(sees: StationSees): Seen[] {
  const seen: Seen[] = [];
  const see = (testId: string, outcomeId: string, words: string) => seen.push({ testId, outcomeId, words });
  const lately = (at: string | null) => within(at, sees.now, LATELY_MS);
  if (sees.licenceConfirmed) see('licence', 'yes', 'You have said that your licence covers it.');
  see('lock', sees.locks.length > 0 ? 'yes' : 'no', sees.locks[0] ?? 'The transmitter is not locked.');
  see('hold', sees.held ? 'yes' : 'no', sees.held ? 'Everything is held.' : 'Nothing is held.');
  see('capitals', 'yes', 'What is sent from here is always in capital letters.');
  if (sees.modem) seeModem(sees, sees.modem, see);
  // A set may know its place, and tell it, without this program.
  if (sees.positionKnown) see('fix', 'yes', 'A position is set here.');
  if (lately(sees.positionSentAt)) see('reports', 'yes', 'A position was sent in the last half hour.');
  // Silence says little where nothing was sent.
  if (lately(sees.positionRepeatedAt)) see('repeated', 'yes', 'A position of yours was heard repeated.');
  if (lately(sees.ownRepeatedAt))
    see('busy', 'yes', 'Something of yours went out lately: the channel was clear for it.');
  if (lately(sees.ownRepeatedAt)) see('gated', 'yes', 'Something of yours was heard repeated in the last half hour.');
  if (lately(sees.gatewayHeardAt)) see('gateway', 'yes', 'A gateway was heard in the last half hour.');
  if (sees.ambiguity !== null)
    see(
      'blanks',
      sees.ambiguity > 0 ? 'yes' : 'no',
      sees.ambiguity > 0
        ? 'The last position was sent with digits left blank.'
        : 'The last position was sent as it is.',
    );
  see(
    'store',
    sees.room ? 'yes' : 'no',
    sees.room ? 'There is room for arrived texts.' : 'The store for arrived texts is full.',
  );
  if (sees.mesh) {
    see(
      'mesh-node',
      sees.mesh.up ? 'yes' : 'no',
      sees.mesh.up ? 'The node answers.' : (sees.mesh.reason ?? 'The node does not answer.'),
    );
    const { upSince } = sees.mesh;
    // Of a node that answers since a moment ago nobody knows how long it has been on.
    if (upSince !== null && !within(upSince, sees.now, HOUR_MS))
      see('mesh-time', 'yes', `The node answers since ${upSince.slice(11, 16)}Z.`);
    see(
      'mesh-region',
      sees.mesh.regionSet ? 'yes' : 'no',
      sees.mesh.regionSet ? 'Its region is set.' : 'Its region is not set.',
    );
  }
  return seen;
}

type See = (testId: string, outcomeId: string, words: string) => void;

function seeModem(sees: StationSees, modem: NonNullable<StationSees['modem']>, see: See): void {
  const { name, frames, garbled, lines, tunedMHz, path } = modem;
  see('bearer', modem.enabled ? 'yes' : 'no', `${name} is switched ${modem.enabled ? 'on' : 'off'}.`);
  if (modem.enabled)
    see('port', modem.up ? 'yes' : 'no', modem.up ? `${name} answers.` : (modem.reason ?? `${name} does not answer.`));
  if (modem.up) {
    if (frames > 0) see('octets', 'frames', `${name} brought packets in the last ten minutes.`);
    else if (lines > 0) see('octets', 'lines', `${name} brought lines of text instead of frames.`);
    else if (garbled >= LEAST_GARBLED) see('octets', 'garbled', `${name} brought octets that are no frames.`);
    if (frames > 0) {
      see('line', 'yes', 'Frames arrive, so the line has the same speed at both ends.');
      see('mode', 'yes', 'Frames arrive, so the modem is set to KISS.');
    }
  }
  if (tunedMHz !== null && sees.regionMHz !== null) {
    const same = Math.abs(tunedMHz - sees.regionMHz) < 0.0005;
    if (same) see('dial', 'yes', `${name} is said to be on ${tunedMHz.toFixed(3)} MHz, as usual in your region.`);
  }
  const named = path.filter((element) => elementForm(element) === 'station');
  const silent = sees.named.find(({ call, heardAt }) => named.includes(call) && !within(heardAt, sees.now, DAY_MS));
  if (path.length === 0) see('path', 'nobody', `The path of ${name} is empty.`);
  else if (silent) see('path', 'named', `${silent.call} was not heard today.`);
  else see('path', 'general', `The path of ${name} is ${path.join(',')}.`);
}
