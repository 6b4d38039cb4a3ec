import { carriageOf, ownStation, type AudienceView, type BearerView, type Settings } from '@tombolo/contract';
import {
  airTimeMs,
  checkPositionComment,
  counted,
  DEFAULT_TIMING,
  encodeOwnPosition,
  formatMHz,
  frameToSend,
  octetsOfText,
  pathHops,
  PATH_SCHOOLS,
  symbolOf,
  textOfOctets,
  type Ambiguity,
} from '@tombolo/core';

export interface WrittenReport {
  readonly ambiguity: Ambiguity;
  readonly comment: string;
  readonly path: readonly string[];
}

/** What a position report would be, from the frame as it would be sent. */
export interface ReportPlan {
  /** The information field as it goes out; null while there is none. */
  readonly info: string | null;
  readonly airTimeS: number | null;
  readonly octets: number;
  readonly problem: string | null;
  readonly buttonWords: string;
}

/** Everything that the page shows about a report. */
export function planReport(written: WrittenReport, settings: Settings, modem: BearerView | undefined): ReportPlan {
  const { ambiguity, comment, path } = written;
  const checked = checkPositionComment(comment);
  const symbol = symbolOf(settings.symbol);
  const info =
    settings.position && symbol ? encodeOwnPosition({ ...settings.position, symbol, ambiguity, comment }) : null;
  const carriage = modem && carriageOf(modem.config);
  const txDelayMs = carriage?.what === 'packets' ? carriage.txDelayMs : DEFAULT_TIMING.txDelayMs;
  const frame = info?.ok ? frameToSend(ownStation(settings) ?? 'QT0AA', [...path], info.value) : null;
  const frequencyHz = modem?.tuned?.frequencyHz ?? null;
  const by = frequencyHz === null ? 'radio' : `${formatMHz(frequencyHz / 1e6)} MHz`;
  return {
    info: info?.ok ? textOfOctets(info.value) : null,
    airTimeS: frame?.ok ? airTimeMs(frame.value, { ...DEFAULT_TIMING, txDelayMs }) / 1000 : null,
    octets: octetsOfText(comment).length,
    problem: checked.ok ? null : checked.error.reason,
    buttonWords: `Send our position by ${by}, ${path.length > 0 ? `over ${path.join(',')}` : 'without a digipeater'}`,
  };
}

/** What is said of a path by how many are in its reach. */
function reachWords(id: string, audience: AudienceView | undefined): string {
  const told = audience?.paths.find(({ path }) => path.join() === id);
  if (!audience || !told || audience.stations === 0) return '';
  const count = `In its reach: about ${Math.round(told.expected)} of ${counted(audience.stations, 'station')} known here.`;
  if (audience.enough?.join() !== id) return count;
  const isLongest = audience.paths.every(({ path }) => pathHops(path) <= pathHops(told.path));
  return `${count} ${isLongest ? 'That is advised: a shorter path reaches clearly fewer.' : 'That is enough: a longer path brings hardly more.'}`;
}

/** Paths to choose from: the usual one of the modem first, then the schools. */
export function pathsOf(
  modem: BearerView | undefined,
  audience?: AudienceView,
): { id: string; title: string; hint: string }[] {
  const carriage = modem && carriageOf(modem.config);
  const usual = carriage?.what === 'packets' ? carriage.path.join(',') : null;
  const schools = PATH_SCHOOLS.map(({ path, reason }) => {
    const id = path.join(',');
    return {
      id,
      title: path.length > 0 ? id : 'No digipeater',
      hint: `${reason} ${reachWords(id, audience)}`.trim(),
    };
  });
  if (usual === null) return schools;
  const known = schools.find(({ id }) => id === usual);
  return [
    {
      id: usual,
      title: usual || 'No digipeater',
      hint: `The usual path of ${modem!.name}. ${known?.hint ?? ''}`.trim(),
    },
    ...schools.filter(({ id }) => id !== usual),
  ];
}
