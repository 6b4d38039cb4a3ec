import type { Api } from '../../apps/station/src/testing/harness';
import { listPerson } from '../../apps/station/src/testing/listed';
import { rowsOf, type Queries } from '../../apps/station/src/store/database';
import { decodeFrame, formatMonitorLine, packetOfFrame, textOfOctets } from '@tombolo/core';
import type { WorldRecord } from './record';

/** Two hearings of the same octets by one radio are never so close: the air carries one frame at a time. */
const ONE_HEARING_MS = 300;

/** A rule that hands on what the mesh brings, and the people whom it may concern. */
export async function turnOnRule(api: Api, rule: { from: string; to: string; id: string }): Promise<void> {
  await listPerson(api, 'Ferry Office', { phone: '+1 555 0100' }, true);
  const made = await api.post<{ id: string }>('/rules', {
    id: rule.id,
    name: 'Mesh to phone',
    fromBearer: rule.from,
    senders: [],
    toBearer: rule.to,
    to: 'TELTXT',
    hours: { from: '00:00', until: '23:59' },
    mostPerHour: 20,
  });
  await api.patch(`/rules/${made.id}`, { enabled: true });
}

/** How much there was that could have been done twice. */
export async function doneOnce(queries: Queries, radio: string): Promise<string> {
  const [counts] = await rowsOf<Record<'heard' | 'tried' | 'relayed' | 'jobs', number>>(
    queries,
    `select (select count(*)::int from reception r join channel c on c.id = r.channel_id where c.bearer_id = $1) as heard,
       (select count(*)::int from attempt a join leg l on l.id = a.leg_id where l.bearer_id = $1) as tried,
       (select count(*)::int from leg where detail->'relay' ? 'rule') as relayed,
       (select count(*)::int from job where state = 'done') as jobs`,
    [radio],
  );
  const { heard, tried, relayed, jobs } = counts!;
  return `${heard} heard by radio, ${tried} tries, ${relayed} handed on by a rule, ${jobs} jobs`;
}

/** What several processes on one database did twice; `own` is our call, `radio` our bearer. */
export async function doublesIn(queries: Queries, record: WorldRecord, own: string, radio: string): Promise<string[]> {
  const heardTwice = await rowsOf<{ n: number }>(
    queries,
    `select count(*)::int as n from (
       select time_of(r.id) - lag(time_of(r.id)) over (partition by r.channel_id, r.raw order by r.id) as after
       from reception r join channel c on c.id = r.channel_id where c.bearer_id = $1) x
     where after < make_interval(secs => $2::float8)`,
    [radio, ONE_HEARING_MS / 1000],
  );
  const relayedTwice = await rowsOf<{ item_id: string; n: number }>(
    queries,
    `select item_id, count(*)::int as n from leg where detail->'relay' ? 'rule' group by item_id, detail->'relay'->>'rule' having count(*) > 1`,
  );
  const attempts = await rowsOf<{ frame: Buffer; n: number }>(
    queries,
    `select a.frame, count(*)::int as n from attempt a join leg l on l.id = a.leg_id where l.bearer_id = $1 group by 1`,
    [radio],
  );
  const onAir = attempts.flatMap(({ frame, n }) => {
    const decoded = decodeFrame(frame);
    const packet = decoded.ok ? packetOfFrame(decoded.value) : decoded;
    if (!packet.ok) return [];
    const line = textOfOctets(formatMonitorLine(packet.value, { escapes: true }));
    const times = record.byRadio(own, line);
    return times > n ? [`${times} times on the air, handed over ${n} times: ${line}`] : [];
  });
  return [
    ...(heardTwice[0]!.n > 0 ? [`${heardTwice[0]!.n} receptions twice`] : []),
    ...relayedTwice.map(({ item_id, n }) => `handed on ${n} times by one rule: ${item_id}`),
    ...onAir,
  ];
}
