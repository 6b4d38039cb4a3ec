import { rowsOf, type Queries } from './database';

/** From which bearer or recording something came, by which port of the modem and on which frequency it was set then. */
export interface Channel {
  readonly bearerId: string | null;
  readonly importId: string | null;
  readonly port: number | null;
  readonly frequencyHz: number | null;
}

const keyOf = ({ bearerId, importId, port, frequencyHz }: Channel): string =>
  [bearerId, importId, port, frequencyHz].map(String).join('/');

/** The numbers of some channels, by which receptions name them; those that are new are put down. */
export async function channelIds(
  queries: Queries,
  channels: readonly Channel[],
): Promise<(channel: Channel) => number> {
  const wanted = [...new Map(channels.map((channel) => [keyOf(channel), channel])).values()];
  const parameters = [
    wanted.map((c) => c.bearerId),
    wanted.map((c) => c.importId),
    wanted.map((c) => c.port),
    wanted.map((c) => c.frequencyHz),
  ];
  const asked = 'unnest($1::text[], $2::uuid[], $3::int[], $4::bigint[])';
  const look = async () => {
    const rows = await rowsOf<{ id: number; n: string }>(
      queries,
      `select c.id, w.n from ${asked} with ordinality as w (bearer_id, import_id, port, frequency_hz, n)
       join channel c on c.bearer_id is not distinct from w.bearer_id and c.import_id is not distinct from w.import_id
         and c.port is not distinct from w.port and c.frequency_hz is not distinct from w.frequency_hz`,
      parameters,
    );
    return new Map(rows.map(({ id, n }) => [keyOf(wanted[Number(n) - 1]!), id]));
  };
  let known = await look();
  if (known.size < wanted.length) {
    await queries.query(
      `insert into channel (bearer_id, import_id, port, frequency_hz) select * from ${asked} on conflict do nothing`,
      parameters,
    );
    known = await look();
  }
  return (channel) => known.get(keyOf(channel))!;
}

/** Channels by the numbers by which receptions name them. */
export async function channelsByIds(queries: Queries, ids: readonly number[]): Promise<Map<number, Channel>> {
  const rows = await rowsOf<{
    id: number;
    bearer_id: string | null;
    import_id: string | null;
    port: number | null;
    frequency_hz: string | null;
  }>(queries, 'select id, bearer_id, import_id, port, frequency_hz from channel where id = any($1)', [ids]);
  return new Map(
    rows.map(({ id, bearer_id: bearerId, import_id: importId, port, frequency_hz: hz }) => [
      id,
      { bearerId, importId, port, frequencyHz: hz === null ? null : Number(hz) },
    ]),
  );
}

/** All channels of a bearer or of a recording: one for each port and frequency that it ever had. */
export async function channelsOf(
  queries: Queries,
  origin: { readonly bearerId?: string | undefined; readonly importId?: string | undefined },
): Promise<number[]> {
  const rows = await rowsOf<{ id: number }>(
    queries,
    'select id from channel where ($1::text is null or bearer_id = $1) and ($2::uuid is null or import_id = $2)',
    [origin.bearerId ?? null, origin.importId ?? null],
  );
  return rows.map(({ id }) => id);
}
