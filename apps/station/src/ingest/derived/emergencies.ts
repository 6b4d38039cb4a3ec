import { baseCall, emergencyOf, tellsState, type Emergency } from '@tombolo/core';
import { rowsOf, type Queries } from '../../store/database';
import type { NewEvent } from '../../store/events';
import type { Stored } from '../store-heard';

/** An emergency of which nothing was heard for so long is raised anew when it comes again. */
const LAPSES_MS = 3_600_000;

/** How the words of an alarm begin that a tracker raised by its feed: no packet of a station ends that. */
export const TRACKER_CALLS = 'calls for help: tracker ';

interface Called {
  readonly emergency: Emergency | null;
  readonly packetId: string | null;
}

/** What each station says of its state in a batch, the last word of each; of what was heard live alone. */
function saidBy(stored: readonly Stored[], own: string | null): Map<string, Called> {
  const said = new Map<string, Called>();
  for (const { understood, packetId, isNewPacket } of stored) {
    const { heard, packet, information } = understood;
    // A late copy says nothing new.
    if (heard.importId !== null || !isNewPacket || !packet || !information) continue;
    if (own !== null && baseCall(packet.source) === own) continue;
    const emergency = emergencyOf(information);
    if (emergency || tellsState(information)) said.set(packet.source, { emergency, packetId });
  }
  return said;
}

/** Raises an alarm for each station that calls for help, once while it goes on, and ends it when the station says otherwise. */
export async function judgeEmergencies(
  queries: Queries,
  stored: readonly Stored[],
  own: string | null,
  at: Date,
): Promise<NewEvent[]> {
  const said = saidBy(stored, own);
  if (said.size === 0) return [];
  const calls = [...said.keys()];
  const open = await rowsOf<{ id: string; call: string; at: Date; drill: boolean }>(
    queries,
    `select id, call, at, drill from alarm where kind = 'emergency' and ended_at is null and call = any($1)
       and not starts_with(words, $2) for update`,
    [calls, TRACKER_CALLS],
  );
  const events: NewEvent[] = [];
  for (const [call, { emergency, packetId }] of said) {
    const before = open.filter((one) => one.call === call);
    const going = before.find((one) => at.getTime() - one.at.getTime() < LAPSES_MS && one.drill === emergency?.drill);
    if (!emergency) {
      if (before.length === 0) continue;
      await queries.query('update alarm set ended_at = $2 where id = any($1::bigint[])', [
        before.map(({ id }) => id),
        at,
      ]);
    } else if (!going)
      await queries.query(
        `insert into alarm (call, words, at, packet_id, kind, drill) values ($1, $2, $3, $4, 'emergency', $5)`,
        [call, `calls for help, by ${emergency.by}`, at, packetId, emergency.drill],
      );
    else continue;
    events.push({ type: 'alarm', data: { call } });
  }
  return events;
}
