import type { BearerConfig } from '@tombolo/contract';
import { DataSource } from 'typeorm';
import { insertBearer } from '../apps/station/src/http/routes/bearers';
import { createDatabase, startTestStation } from '../apps/station/src/testing/harness';
import { quantile, type Figure } from './figure';

/** A modem that is not there: what it heard is. */
const MODEM: BearerConfig = {
  kind: 'kiss-tcp',
  host: '127.0.0.1',
  port: 1,
  modemPort: 0,
  frequencyMHz: null,
  txDelayMs: 300,
  persistencePercent: 25,
  slotMs: 100,
  path: [],
  confirms: false,
};

const PACKETS = 1_000_000;
const DAY_MS = 86_400_000;
const START_MS = Date.UTC(2026, 0, 1);
const PAGES = 3;

const WORDS = [
  'shelter',
  'supplies',
  'wind from 45',
  'causeway',
  'on duty',
  'convoy',
  'level',
  'harbour',
  'insulin',
  'ferry',
];
const KINDS = [
  'position',
  'position',
  'position',
  'Mic-E',
  'Mic-E',
  'message',
  'ack',
  'status',
  'telemetry',
  'object',
  'weather',
];
const STATIONS = 2000;
const BEARERS = ['radio', 'radio', 'radio', 'radio', 'feed'];

/**
 * A day of a million packets, made inside the database: two thousand stations of very unlike activity, rare words, and one link that
 * brought hardly anything.
 */
async function fill(query: (sql: string, parameters?: unknown[]) => Promise<unknown>): Promise<void> {
  // Built at once behind the load, as any index of a large table is.
  await query('drop index packet_words');
  await query(
    `insert into packet (id, identity, source, destination, kind, addressee, summary)
     select id_at($1::timestamptz + n * interval '86.4 ms', n), int8send(n),
            'QT' || (s % 10) || chr(65 + s % 26) || chr(65 + (s / 26) % 26) || '-' || (s % 16), 'APRS', k[1 + n % ${KINDS.length}],
            case when n % ${KINDS.length} in (5, 6) then 'QT' || (n % 10) || 'NC' end,
            'Number ' || n || ' ' || w[1 + (n * 7) % ${WORDS.length}] || case when n % 50021 = 0 then ' zebra' else '' end
     from (select n, floor(${STATIONS} * power(((n * 7919::bigint) % 100003) / 100003.0, 4))::int as s, $2::text[] as k, $3::text[] as w
           from generate_series(1, ${PACKETS}) n) g`,
    [new Date(START_MS), KINDS, WORDS],
  );
  await query(`insert into channel (bearer_id) select unnest($1::text[])`, [[...new Set(BEARERS), 'rare']]);
  await query(
    `insert into reception (id, packet_id, recorded_at, channel_id, opens, opens_here, form, raw)
     select p.id, p.id, time_of(p.id), c.id, true, true, 'line', '\\x21' from packet p join channel c on c.bearer_id =
       case when p.id % 99991 = 0 then 'rare' else ($1::text[])[1 + p.id % ${BEARERS.length}] end`,
    [BEARERS],
  );
  await query(
    `create index packet_words on packet using gin ((source || ' ' || coalesce(addressee, '') || ' ' || summary) gin_trgm_ops)`,
  );
  await query(`update channel set port = 0 where bearer_id = 'radio'`);
  await query('vacuum analyze');
}

const at = (share: number) => new Date(START_MS + share * DAY_MS).toISOString();

/** Every filter that Log offers, common and rare, alone and together. */
const FILTERS: readonly string[] = [
  '',
  'text=insulin',
  'text=zebra',
  'text=999999',
  'text=nowhere',
  'text=QT0AA',
  'station=QT0AA-0',
  'station=QT9ZZ-15',
  'station=QT3NC',
  'kind=position',
  'kind=object',
  'kind=nothing',
  'bearerId=radio',
  'bearerId=feed',
  'bearerId=rare',
  `from=${at(0.5)}&to=${at(0.51)}`,
  'kind=Mic-E&text=convoy',
  'station=QT0AA-0&kind=message',
  'bearerId=rare&kind=object',
  'bearerId=feed&text=harbour',
  'bearerId=feed&text=zebra',
  `text=ferry&to=${at(0.1)}`,
];

/** Any filter of the log over a day of a million packets, page by page, as the console asks for it. */
export async function logSearch(): Promise<Figure[]> {
  const database = await createDatabase();
  // By its clock the day has just ended: the last ten minutes are as full as the rest.
  const station = await startTestStation(database.url, { now: () => START_MS + DAY_MS });
  try {
    // Indexes are the owner's.
    const owner = await new DataSource({ type: 'postgres', url: database.ownerUrl }).initialize();
    await fill((sql, parameters) => owner.query(sql, parameters)).finally(() => owner.destroy());
    const times: { filter: string; ms: number }[] = [];
    for (const filter of FILTERS) {
      let before = '';
      for (let page = 0; page < PAGES; page++) {
        const start = performance.now();
        const answer = await fetch(`${station.url}/api/v1/packets?limit=50&${filter}${before}`);
        const { next } = (await answer.json()) as { next: string | null };
        times.push({ filter, ms: performance.now() - start });
        if (!answer.ok) throw new Error(`${filter}: ${answer.status}`);
        if (next === null) break;
        before = `&before=${next}`;
      }
    }
    const slowest = times.reduce((a, b) => (b.ms > a.ms ? b : a));
    const ms = times.map((time) => time.ms);
    const loads: number[] = [];
    await insertBearer(station.context, 'radio', 'Radio', MODEM);
    for (let n = 0; n < 20; n++) {
      const start = performance.now();
      const answer = await fetch(`${station.url}/api/v1/bearers`);
      const [radio] = (await answer.json()) as { load: number | null }[];
      loads.push(performance.now() - start);
      if (!radio?.load) throw new Error('the load of the channel was not told');
    }
    return [
      {
        name: 'Load of a channel over a million receptions',
        value: quantile(loads, 0.95),
        unit: 'ms',
        goal: 200,
        better: 'less',
        note: `95th percentile of 20 asks for the cards of Bearers (median ${quantile(loads, 0.5).toFixed(1)} ms)`,
      },
      {
        name: 'Any filter of Log over a million packets',
        value: quantile(ms, 0.95),
        unit: 'ms',
        goal: 150,
        better: 'less',
        note: `95th percentile of ${times.length} pages of ${FILTERS.length} filters (median ${quantile(ms, 0.5).toFixed(1)} ms, slowest ${slowest.ms.toFixed(0)} ms: ${slowest.filter || 'none'})`,
      },
    ];
  } finally {
    await station.stop();
    await database.drop();
  }
}
