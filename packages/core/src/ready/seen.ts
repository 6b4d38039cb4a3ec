import { elementForm } from '../aprs/element';
import { counted } from '../text/counted';

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
    /** Share of the channel that packets took in the last ten minutes, 0–1; null where that is not measured. */
    readonly load: number | null;
    readonly path: readonly string[];
  } | null;
  /** Packet channel of the region; null where none is known. */
  readonly regionMHz: number | null;
  /** Digipeaters that the path names, with when each was heard last. */
  readonly named: readonly { readonly call: string; readonly heardAt: string | null }[];
  readonly positionKnown: boolean;
  /**
   * The position receiver that was chosen: whether it tells where we are now, what was read of it, how far its clock is ahead of ours, s,
   * and for how long its line has been open without a single octet, s, which only serial lines tell; null without one.
   */
  readonly receiver: {
    readonly fresh: boolean;
    readonly read: number;
    readonly wrong: number;
    readonly clockAheadS: number | null;
    readonly silentS: number | null;
  } | null;
  /** Whether a set on the list of equipment scans; null where none is on it. */
  readonly anyScans: boolean | null;
  /**
   * The last text of the day that was repeated and not acknowledged: to whom, when each SSID of that call was heard, the last first,
   * and whether that station ever answered; null without one.
   */
  readonly lastText: {
    readonly addressee: string;
    readonly heard: readonly { readonly call: string; readonly at: string; readonly byRadio: boolean }[];
    readonly everAnswered: boolean;
  } | null;
  /** Who wrote to another SSID of ours within the day and not to this one since: to which and when last, and how many texts, a text tried again counted once. */
  readonly writtenToAnother: {
    readonly by: string;
    readonly to: string;
    readonly at: string;
    readonly texts: number;
  } | null;
  /** The last session of the day, where it ended early: with whom, when and why in the words of its record. */
  readonly lastSession: { readonly name: string; readonly at: string; readonly problem: string } | null;
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
    /** Other nodes that have announced themselves. */
    readonly nodes: number;
    /** Packets of other nodes within the last hour: how many could be read, and how many not. */
    readonly heard: { readonly readable: number; readonly sealed: number };
  } | null;
}

/** What needs nobody to look. */
export interface Seen {
  readonly testId: string;
  /** Null where it only helps to answer. */
  readonly outcomeId: string | null;
  readonly words: string;
}

const LATELY_MS = 30 * 60_000;
const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
/**
 * From so much on, stations that do not hear each other lose about every second packet: of what is sent at any time, exp(−2·load) gets
 * through (Abramson 1970, from memory).
 */
const CROWDED = 1 / 3;
/** A clock of a receiver that is off by more has not set itself yet, or ours is wrong; by less, others take it for right. */
const CLOCK_RIGHT_S = 60;
/** Receivers write each second, with or without a fix. */
export const RECEIVER_SILENT_S = 20;
/** Nodes announce themselves within that time. */
const ANNOUNCED_WITHIN_MS = 30 * 60_000;
/** Fewer octets without sense are noise, which any receiver hears. */
const LEAST_GARBLED = 5;

const within = (at: string | null, now: string, ms: number): boolean =>
  at !== null && Date.parse(now) - Date.parse(at) <= ms;

/** Outcomes of tests that the station sees by itself; what it cannot be sure of is left to be asked. */
export function seenOutcomes(sees: StationSees): Seen[] {
  const seen: Seen[] = [];
  const see: See = (testId, outcomeId, words) => seen.push({ testId, outcomeId, words });
  const lately = (at: string | null) => within(at, sees.now, LATELY_MS);
  if (sees.licenceConfirmed) see('licence', 'yes', 'You have said that your licence covers it.');
  see('lock', sees.locks.length > 0 ? 'yes' : 'no', sees.locks[0] ?? 'The transmitter is not locked.');
  see('hold', sees.held ? 'yes' : 'no', sees.held ? 'Everything is held.' : 'Nothing is held.');
  see('capitals', 'yes', 'What is sent from here is always in capital letters.');
  if (sees.modem) seeModem(sees, sees.modem, see);
  seePosition(sees, see);
  if (sees.lastText) seeText(sees.now, sees.lastText, see);
  if (sees.writtenToAnother) {
    const { by, to, at, texts } = sees.writtenToAnother;
    // One alone may well be meant for the set that has that SSID.
    if (texts === 1)
      see('own-ssid', null, `One text from ${by} to ${to} was heard ${onDay(at)}, and none to you since.`);
    else
      see(
        'own-ssid',
        'no',
        `${texts} texts from ${by} were heard, the last to ${to} ${onDay(at)}, and none to you since.`,
      );
  }
  // What the other side meant by it somebody has to say.
  if (sees.lastSession) {
    const { name, at, problem } = sees.lastSession;
    for (const testId of ['farewell', 'link'])
      see(testId, null, `The last session, with ${name}, ended early ${onDay(at)}: ${problem}`);
  }
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
  if (sees.anyScans === false) see('scan', 'no', 'No set on the list of equipment scans.');
  if (sees.mesh) seeMesh(sees.now, sees.mesh, see);
  return seen;
}

const timeOf = (at: string): string => `${at.slice(11, 16)}Z`;
const onDay = (at: string): string => `on ${at.slice(0, 10)} at ${timeOf(at)}`;

type See = (testId: string, outcomeId: string | null, words: string) => void;

function seeMesh(
  now: string,
  { up, reason, upSince, regionSet, nodes, heard }: NonNullable<StationSees['mesh']>,
  see: See,
): void {
  see('mesh-node', up ? 'yes' : 'no', up ? 'The node answers.' : (reason ?? 'The node does not answer.'));
  if (upSince !== null && !within(upSince, now, HOUR_MS))
    see('mesh-time', 'yes', `The node answers since ${timeOf(upSince)}.`);
  // Of a node that answers since a moment ago nobody knows how long it has been on.
  else if (upSince !== null) {
    const first = new Date(Date.parse(upSince) + ANNOUNCED_WITHIN_MS).toISOString();
    see(
      'mesh-time',
      null,
      `The node answers since ${timeOf(upSince)}: if it was switched on then, the first ones are expected by ${timeOf(first)}.`,
    );
  }
  see('mesh-region', regionSet ? 'yes' : 'no', regionSet ? 'Its region is set.' : 'Its region is not set.');
  // That nothing was heard is no outcome: it may be early, and it may be the antenna.
  if (nodes > 0)
    see(
      'mesh-frames',
      null,
      `The list is not empty: ${counted(nodes, 'other node')} on it told ${nodes === 1 ? 'its name' : 'their names'}.`,
    );
  else if (heard.readable > 0)
    see('mesh-frames', 'readable', 'Packets of other nodes came within the hour, and could be read.');
  else if (heard.sealed > 0)
    see('mesh-frames', 'sealed', 'Packets of other nodes came within the hour, and none of them could be read.');
}

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
  // Who hears nothing does not know how full the channel is.
  if (modem.load !== null && frames > 0)
    see(
      'load',
      modem.load < CROWDED ? 'no' : null,
      `What was heard and sent took ${Math.round(100 * modem.load)} % of the channel of ${name} in the last ten minutes.`,
    );
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

function seePosition({ positionKnown, receiver }: StationSees, see: See): void {
  // A set may know its place, and tell it, without this program: where nothing is chosen here, no position says nothing.
  if (!receiver) {
    if (positionKnown) see('fix', 'yes', 'A position is set here.');
    return;
  }
  const { fresh, read, wrong, clockAheadS, silentS } = receiver;
  see('fix', fresh ? 'yes' : 'no', fresh ? 'The receiver tells where you are.' : 'The receiver tells no position now.');
  // What cannot be used may be readable all the same, such as a sentence without a checksum: then somebody has to look.
  if (read > wrong) see('sentences', 'lines', 'What the receiver sends can be read.');
  if (silentS !== null && silentS >= RECEIVER_SILENT_S)
    see('sentences', 'nothing', `The line of the receiver has been open for ${silentS} s, and not one octet came.`);
  // With a fix it has its time from the satellites; without one, from wherever it was last.
  if (fresh && clockAheadS !== null) {
    const right = Math.abs(clockAheadS) < CLOCK_RIGHT_S;
    const by = `${clockAheadS >= 0 ? 'behind' : 'ahead of'} that of the position receiver by ${Math.abs(Math.round(clockAheadS))} s`;
    see(
      'clock',
      right ? 'yes' : 'no',
      `The clock of this computer is ${right && Math.abs(clockAheadS) < 2 ? 'that of the position receiver' : by}.`,
    );
  }
}

/**
 * Of the last text without an acknowledgement: whether its addressee is there, and under which SSID. That it is heard does not say that its
 * answers come.
 */
function seeText(
  now: string,
  { addressee, heard, everAnswered }: NonNullable<StationSees['lastText']>,
  see: See,
): void {
  const whose = `${addressee}, to whom the last text without an acknowledgement went,`;
  const [last] = heard;
  const own = heard.find(({ call }) => call === addressee);
  // Over the internet it is heard wherever it is.
  if (own?.byRadio && within(own.at, now, LATELY_MS)) see('heard', 'yes', `${whose} was heard at ${timeOf(own.at)}.`);
  else if (own?.byRadio) see('heard', 'no', `${whose} was last heard ${onDay(own.at)}.`);
  else if (!own) see('heard', 'no', `${whose} is not among the stations heard here.`);
  if (last?.call === addressee) see('ssid', 'yes', `It was heard last as ${addressee}, to which the text went.`);
  // Somebody may have two sets on: only where the one that was written to is silent, the other one is meant.
  else if (last && within(last.at, now, LATELY_MS) && !(own && within(own.at, now, DAY_MS)))
    see('ssid', 'no', `${whose} was last heard as ${last.call}, at ${timeOf(last.at)}.`);
  if (everAnswered) see('takes-texts', 'yes', `${addressee} has written to you, answered or acknowledged before.`);
}
