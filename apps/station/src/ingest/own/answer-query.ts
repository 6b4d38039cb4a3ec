import {
  answerText,
  directedQuery,
  encodeFrequency,
  encodeMessage,
  encodeStatus,
  encodeUncompressedPosition,
  MOST_STATUS_OCTETS,
  octetsOfText,
  plainFrequency,
  symbolOf,
  type DirectedQuery,
} from '@tombolo/core';
import type { Settings } from '@tombolo/contract';
import { rowsOf, type Queries } from '../../store/database';
import { firstIdAt, lastIdAt } from '../../store/moments';
import { queueAutomatic } from '../../transmissions/write';
import type { Stored } from '../store-heard';

const HOUR_MS = 3_600_000;
const HOURS_BACK = 8;

/**
 * Answers a question that a station asked us (Protocol Reference 1.0.1, ch. 15), when the operator allowed it: one packet, sent once.
 * True when there was something to answer.
 */
export async function answerQuery(
  queries: Queries,
  row: Stored,
  text: string,
  itemId: string,
  way: {
    readonly own: string;
    readonly bearerId: string;
    readonly path: readonly string[];
    readonly settings: Settings;
  },
): Promise<boolean> {
  const query = directedQuery(text);
  if (!query) return false;
  const { packet, heard } = row.understood;
  const at = new Date(heard.heardAtMs);
  const info = await answerInfo(queries, query, row, way.settings, at);
  if (!info) return false;
  await queueAutomatic(
    queries,
    {
      itemId,
      role: 'answer',
      bearerId: way.bearerId,
      fromCall: way.own,
      toCall: packet!.source,
      path: way.path,
      info,
      policy: { ...way.settings.retry, tries: 1 },
    },
    at,
  );
  return true;
}

async function answerInfo(
  queries: Queries,
  query: DirectedQuery,
  row: Stored,
  settings: Settings,
  at: Date,
): Promise<Uint8Array | null> {
  const { packet } = row.understood;
  // A plain answer would say that no help is needed any more; the call for help tells where we are.
  if (settings.emergency && (query.what === 'position' || query.what === 'status')) return null;
  if (query.what === 'position') return ownPosition(settings);
  if (query.what === 'status') return ownStatus(settings);
  const direct =
    query.what === 'direct stations'
      ? await rowsOf<{ call: string }>(
          queries,
          `select call from station where (state->>'directAtMs')::float8 > $1 and state->>'kind' = 'station' and call <> $2
           order by (state->>'directAtMs')::float8 desc limit 20`,
          [at.getTime() - HOUR_MS, packet!.source],
        )
      : [];
  const perHour = query.what === 'heard' ? await heardPerHour(queries, query.call, at) : [];
  const lastUsed = packet!.path.reduce((last, hop, i) => (hop.used ? i : last), -1);
  const words = answerText(query, {
    direct: direct.map(({ call }) => call),
    heardPerHour: () => perHour,
    path: packet!.path.map(({ call }, i) => (i === lastUsed ? `${call}*` : call)).join(','),
  });
  if (words === null) return null;
  const message = encodeMessage({ addressee: packet!.source, text: words });
  return message.ok ? message.value : null;
}

/** Our position as a report; null while it is not known. */
export function ownPosition({ position, symbol }: Pick<Settings, 'position' | 'symbol'>): Uint8Array | null {
  const own = symbolOf(symbol);
  return position && own ? octetsOfText(`=${encodeUncompressedPosition({ ...position, symbol: own })}`) : null;
}

/** What the operator wrote, with the frequency listened to in front where it fits; nothing when there is nothing to say. */
export function ownStatus({ statusText, voiceMHz }: Settings): Uint8Array | null {
  const frequency = voiceMHz === null ? '' : encodeFrequency(plainFrequency(voiceMHz));
  const whole = [frequency, statusText].filter(Boolean).join(' ');
  const text = octetsOfText(whole).length <= MOST_STATUS_OCTETS ? whole : statusText;
  return text === '' ? null : octetsOfText(encodeStatus(text));
}

async function heardPerHour(queries: Queries, call: string, at: Date): Promise<number[]> {
  const rows = await rowsOf<{ back: number; count: string }>(
    queries,
    `select floor(extract(epoch from $2::timestamptz - time_of(id)) / 3600)::int as back, count(*) from packet
     where source = $1 and id between $3 and $4 group by 1`,
    [call, at, firstIdAt(at.getTime() - HOURS_BACK * 3_600_000), lastIdAt(at)],
  );
  return Array.from({ length: HOURS_BACK }, (_, back) => Number(rows.find((row) => row.back === back)?.count ?? 0));
}
