import { baseCall, type StationSees } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';
import { firstIdAt, msOfId } from '../store/moments';

const DAY_MS = 24 * 3_600_000;
/** Of more that wrote elsewhere the latest are looked at. */
const MOST_LOOKED_AT = 200;
/** AX.25 v2.2, section 3.12.2: an SSID has four bits. */
const SSIDS = 16;

/** A call with each SSID that there can be. */
function everySsid(call: string): string[] {
  const base = baseCall(call);
  return Array.from({ length: SSIDS }, (_, ssid) => (ssid === 0 ? base : `${base}-${ssid}`));
}

/** The last text of the day that was heard repeated and that nobody acknowledged, and what is known of whom it went to. */
export async function lastUnacknowledged(queries: Queries, now: number): Promise<StationSees['lastText']> {
  const [text] = await rowsOf<{ to_call: string }>(
    queries,
    `select l.to_call from leg l join item i on i.id = l.item_id
     where i.direction = 'out' and i.kind = 'text' and l.role = 'convey' and l.acknowledgement_asked and l.created_at > $1
       and (l.detail is null or not l.detail ? 'service')
       and exists (select 1 from evidence e where e.leg_id = l.id and e.kind = 'relayed')
       and not exists (select 1 from evidence e where e.leg_id = l.id and e.kind in ('accepted', 'delivered', 'answered', 'refused'))
     order by l.created_at desc limit 1`,
    [new Date(now - DAY_MS)],
  );
  if (!text) return null;
  const { to_call: addressee } = text;
  const heard = await rowsOf<{ call: string; last_at: Date; by_radio: boolean }>(
    queries,
    `select call, last_at, state->>'how' <> 'internet' as by_radio from station where call = any($1) order by last_at desc`,
    [everySsid(addressee)],
  );
  const answered = await rowsOf(
    queries,
    `select 1 from item where direction = 'in' and kind = 'text' and sender = $1
     union all select 1 from evidence e join item i on i.id = e.item_id
       where i.direction = 'out' and split_part(i.addressee, '-', 1) = split_part($1, '-', 1) and i.addressee = $1
         and e.kind in ('delivered', 'answered') limit 1`,
    [addressee],
  );
  return {
    addressee,
    heard: heard.map(({ call, last_at: at, by_radio: byRadio }) => ({ call, at: at.toISOString(), byRadio })),
    everAnswered: answered.length > 0,
  };
}

/** Who wrote to another SSID of ours within the day, and not to this one since; null where nobody did. */
export async function writtenToAnother(
  queries: Queries,
  own: string | null,
  now: number,
): Promise<StationSees['writtenToAnother']> {
  if (own === null) return null;
  const [last] = await rowsOf<{ id: string; source: string; addressee: string; texts: string }>(
    queries,
    `with others as (select id, identity, source, addressee from packet
       where addressee = any($1) and kind = 'message' and id > $2 and source <> all($3) order by id desc limit ${MOST_LOOKED_AT}),
     here as (select source, max(id) as id from packet where addressee = $4 and kind = 'message' and id > $2 group by source)
     select max(o.id) as id, o.source, (array_agg(o.addressee order by o.id desc))[1] as addressee, count(distinct o.identity) as texts
     from others o left join here h using (source)
     where h.id is null or h.id < o.id group by o.source order by (count(distinct o.identity) > 1) desc, id desc limit 1`,
    [everySsid(own).filter((call) => call !== own), firstIdAt(now - DAY_MS), everySsid(own), own],
  );
  if (!last) return null;
  const at = new Date(msOfId(last.id)).toISOString();
  return { by: last.source, to: last.addressee, at, texts: Number(last.texts) };
}
