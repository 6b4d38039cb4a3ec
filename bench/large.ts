import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { readFile } from 'node:fs/promises';
import { DataSource } from 'typeorm';
import { octetsOfText, parseMonitorLine, frameOfPacket, encodeFrame } from '@tombolo/core';
import { heardFilter, heardQuery, type KeptView } from '@tombolo/contract';
import { listPackets, packetDetail } from '../apps/station/src/heard/packets';
import { understand } from '../apps/station/src/ingest/understand';
import type { Queries } from '../apps/station/src/store/database';
import { idAt } from '../apps/station/src/store/moments';
import { createDatabase, type TestDatabase } from '../apps/station/src/testing/harness';
import { quantile, type Figure } from './figure';
import { mixedLine } from './traffic-mix';

const RECEPTIONS = Number(process.env.TOMBOLO_LARGE_RECEPTIONS ?? 10_000_000);
const SOURCES = 20_000;
/** So many different packets are made; they come again with other times and identities. */
const DIFFERENT = 20 * SOURCES;
const YEAR_MS = 365 * 86_400_000;
const END_MS = Date.now();
const START_MS = END_MS - YEAR_MS;
const PAGES = 3;
const MEGABYTE = 1024 * 1024;

const callOf = (n: number): string => {
  const letter = (k: number) => String.fromCharCode(65 + (k % 26));
  const ssid = Math.floor(n / 6760) % 16;
  return `QT${n % 10}${letter(Math.floor(n / 10))}${letter(Math.floor(n / 260))}${ssid === 0 ? '' : `-${ssid}`}`;
};

const quoted = (text: string): string =>
  text.replaceAll('\\', '\\\\').replaceAll('\t', '\\t').replaceAll('\n', '\\n').replaceAll('\r', '\\r');
const bytea = (octets: Uint8Array): string => `\\\\x${Buffer.from(octets).toString('hex')}`;

interface Row {
  readonly packet: string;
  readonly raw: string;
}

/** What the station would store of the packets of a busy channel, as columns of COPY. */
function different(): Row[] {
  return Array.from({ length: DIFFERENT }, (_, n): Row => {
    const packet = parseMonitorLine(octetsOfText(mixedLine(n, callOf((n * 7919) % SOURCES))), { escapes: true });
    const frame = packet.ok ? frameOfPacket(packet.value) : packet;
    const raw = frame.ok ? encodeFrame(frame.value) : frame;
    if (!raw.ok) throw new Error(raw.error.reason);
    const { head, kind, summary } = understand({
      bearerId: 'radio',
      importId: null,
      port: 0,
      form: 'ax25',
      raw: raw.value,
      heardAtMs: 0,
    });
    return {
      packet: [head!.source, head!.destination, kind, head!.addressee ?? '\\N', quoted(summary)].join('\t'),
      raw: bytea(raw.value),
    };
  });
}

/** Rows into a table by COPY, as fast as the database takes them. */
async function copy(url: string, into: string, rows: Iterable<string>): Promise<void> {
  const psql = spawn('psql', ['-q', '-v', 'ON_ERROR_STOP=1', url, '-c', `copy ${into} from stdin`], {
    stdio: ['pipe', 'ignore', 'inherit'],
  });
  const ended = once(psql, 'close');
  let block = '';
  for (const row of rows) {
    block += row;
    if (block.length < 1_000_000) continue;
    if (!psql.stdin.write(block)) await once(psql.stdin, 'drain');
    block = '';
  }
  psql.stdin.end(block);
  const [code] = (await ended) as [number];
  if (code !== 0) throw new Error(`COPY into ${into} failed`);
}

const INDEXES = [
  'packet_identity',
  'packet_source',
  'packet_kind',
  'packet_addressee',
  'packet_words',
  'reception_packet',
  'reception_channel',
];

async function fill(database: TestDatabase, source: DataSource): Promise<void> {
  for (let month = 0; month <= 12; month++)
    await source.query(`select make_month((date_trunc('month', now()) - $1 * interval '1 month')::date)`, [month]);
  // Built at once behind the load, as any index of a large table is.
  const definitions = (await source.query(
    `select indexdef from pg_indexes where schemaname = 'public' and indexname = any($1)`,
    [INDEXES],
  )) as { indexdef: string }[];
  for (const name of INDEXES) await source.query(`drop index ${name}`);
  const [channel] = (await source.query(
    `insert into channel (bearer_id, port, frequency_hz) values ('radio', 0, 145825000) returning id`,
  )) as [{ id: number }];
  const rows = different();
  const timeOf = (n: number) => START_MS + Math.floor((n * YEAR_MS) / RECEPTIONS);
  const rowOf = (n: number) => rows[(n * 7) % DIFFERENT]!;
  function* packets(): Generator<string> {
    const identity = Buffer.alloc(16);
    for (let n = 0; n < RECEPTIONS; n++) {
      identity.writeUInt32LE(Math.imul(n, 2_654_435_761) >>> 0, 0);
      identity.writeUInt32LE(n, 4);
      yield `${idAt(timeOf(n), String(n))}\t${bytea(identity)}\t${rowOf(n).packet}\n`;
    }
  }
  function* receptions(): Generator<string> {
    for (let n = 0; n < RECEPTIONS; n++) {
      const id = idAt(timeOf(n), String(n));
      yield `${id}\t${id}\t${new Date(timeOf(n)).toISOString()}\t${channel.id}\tt\tt\tax25\t${rowOf(n).raw}\n`;
    }
  }
  await copy(database.ownerUrl, 'packet (id, identity, source, destination, kind, addressee, summary)', packets());
  await copy(
    database.ownerUrl,
    'reception (id, packet_id, recorded_at, channel_id, opens, opens_here, form, raw)',
    receptions(),
  );
  for (const { indexdef } of definitions) await source.query(indexdef.replace(' ON ONLY ', ' ON '));
  await source.query('insert into rebuild_wanted values (now())');
  await source.query('vacuum analyze');
}

const FILTERS: readonly string[] = [
  '',
  'text=insulin',
  'text=Number%20399999',
  'text=nowhere',
  'text=QT0AA',
  `station=${callOf(7)}`,
  `station=${callOf(19_999)}`,
  'station=QT1NC',
  'station=QT9ZZ-15',
  'kind=position',
  'kind=weather',
  'kind=nothing',
  'bearerId=radio',
  'bearerId=nobody',
  `from=${new Date(START_MS + YEAR_MS / 2).toISOString()}&to=${new Date(START_MS + YEAR_MS / 2 + 3_600_000).toISOString()}`,
  'kind=Mic-E&text=Car',
  `station=${callOf(14)}&kind=message`,
  'bearerId=radio&kind=object',
  'bearerId=radio&text=shelter',
  `text=duty&to=${new Date(START_MS + YEAR_MS / 10).toISOString()}`,
];

interface Served {
  readonly url: string;
  readonly child: ChildProcess;
  /** Of the process, in octets: now, and the most so far. */
  memory(): Promise<{ now: number; most: number }>;
}

/** The station as a process of its own, so that its memory is its own. */
async function serve(database: TestDatabase): Promise<Served> {
  const child = spawn(process.execPath, ['--enable-source-maps', process.env.TOMBOLO_STATION!], {
    env: { ...process.env, TOMBOLO_DATABASE_URL: database.url, TOMBOLO_PORT: '0' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let told = '';
  const url = await new Promise<string>((resolve, reject) => {
    child.stdout!.on('data', (data: Buffer) => {
      told += data.toString();
      const found = /listening (\S+)/.exec(told);
      if (found) resolve(found[1]!);
    });
    child.on('close', (code) => reject(new Error(`the station ended with ${code}`)));
  });
  return {
    url,
    child,
    async memory() {
      const status = await readFile(`/proc/${child.pid}/status`, 'utf8');
      const of = (name: string) => Number(new RegExp(`${name}:\\s+(\\d+) kB`).exec(status)?.[1] ?? 0) * 1024;
      return { now: of('VmRSS'), most: of('VmHWM') };
    },
  };
}

const ask = async <T>(url: string): Promise<T> => {
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`${url}: ${answer.status}`);
  return (await answer.json()) as T;
};

/** How fast what is derived is made anew, while the station serves. */
async function remake({ url }: Served): Promise<{ perSecond: number; seconds: number; slowestMs: number }> {
  const start = performance.now();
  let begun = false;
  let slowestMs = 0;
  let began = start;
  for (;;) {
    const asked = performance.now();
    const { remaking } = await ask<KeptView>(`${url}/api/v1/kept`);
    await ask(`${url}/api/v1/packets?limit=50`);
    slowestMs = Math.max(slowestMs, performance.now() - asked);
    if (remaking && !begun) {
      begun = true;
      began = performance.now();
    }
    if (begun && !remaking) break;
    if (!begun && performance.now() - start > 120_000) throw new Error('nothing was made anew');
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  const seconds = (performance.now() - began) / 1000;
  return { perSecond: RECEPTIONS / seconds, seconds, slowestMs };
}

/** Nodes of plans that read a whole month of a large table. */
async function sequentialScans(source: DataSource): Promise<string[]> {
  const found: string[] = [];
  const rows = (await source.query(
    `select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
     where n.nspname = 'months' and c.relkind = 'r' and c.reltuples > 10000`,
  )) as { name: string }[];
  const large = new Set(rows.map(({ name }) => name));
  const explaining: Queries = {
    async query(sql: string, parameters?: unknown[]) {
      if (/^\s*select/i.test(sql)) {
        const [row] = (await source.query(`explain (format json) ${sql}`, parameters)) as [{ 'QUERY PLAN': unknown }];
        const walk = (node: unknown): void => {
          if (typeof node !== 'object' || node === null) return;
          const { 'Node Type': type, 'Relation Name': relation } = node as Record<string, string>;
          if (type === 'Seq Scan' && large.has(relation ?? ''))
            found.push(`${relation}: ${sql.replace(/\s+/g, ' ').slice(0, 200)}`);
          for (const value of Object.values(node)) walk(value);
        };
        walk(row['QUERY PLAN']);
      }
      return source.query(sql, parameters);
    },
  } as Queries;
  for (const filter of FILTERS) {
    const query = heardQuery.parse({ ...Object.fromEntries(new URLSearchParams(filter)), limit: 50 });
    heardFilter.parse(query);
    const { rows } = await listPackets(explaining, query);
    if (rows[0]) await packetDetail(explaining, rows[0].id, null);
  }
  return found;
}

/** Ten million receptions of a year: lists, filters and station pages, the disk, the memory of the station, and a rebuild meanwhile. */
export async function large(): Promise<Figure[]> {
  const database = await createDatabase();
  const source = await new DataSource({ type: 'postgres', url: database.ownerUrl }).initialize();
  let served: Served | null = null;
  try {
    const began = performance.now();
    await fill(database, source);
    console.error(`filled in ${((performance.now() - began) / 1000).toFixed(0)} s`);
    served = await serve(database);
    const { perSecond, seconds, slowestMs } = await remake(served);
    await source.query('analyze');
    const [size] = (await source.query(
      `select sum(pg_total_relation_size(c.oid))::bigint as octets from pg_class c join pg_namespace n on n.oid = c.relnamespace
       where n.nspname in ('months', 'public') and c.relkind = 'r'`,
    )) as [{ octets: string }];

    const times: { what: string; ms: number }[] = [];
    const timed = async <T>(what: string, path: string): Promise<T> => {
      const start = performance.now();
      const answer = await ask<T>(`${served!.url}/api/v1${path}`);
      times.push({ what, ms: performance.now() - start });
      return answer;
    };
    for (const filter of FILTERS) {
      let before = '';
      for (let page = 0; page < PAGES; page++) {
        const { next } = await timed<{ next: string | null }>(filter, `/packets?limit=50&${filter}${before}`);
        if (next === null) break;
        before = `&before=${next}`;
      }
    }
    for (let n = 0; n < 40; n++) await timed('a station', `/stations/${callOf(n * 499)}`);
    await timed('failures', '/failures?limit=50');
    await timed('what is kept', '/kept');
    const ms = times.map((time) => time.ms);
    const slowest = times.reduce((a, b) => (b.ms > a.ms ? b : a));
    const scans = await sequentialScans(source);
    const parts = (await source.query(
      `select regexp_replace(c.relname, '_\\d{4}_\\d\\d$|_rest$', '') as name, sum(pg_relation_size(c.oid))::bigint as octets
       from pg_class c join pg_namespace n on n.oid = c.relnamespace
       where n.nspname in ('months', 'public') and c.relkind in ('r', 'i') group by 1 order by 2 desc limit 12`,
    )) as { name: string; octets: string }[];
    for (const scan of scans) console.error(`sequential scan of ${scan}`);
    const { most: before } = await served.memory();
    // As three consoles that open the chart.
    for (let n = 0; n < 3; n++) await ask(`${served.url}/api/v1/stations`);
    const { most } = await served.memory();
    const of = `${RECEPTIONS / 1e6} million receptions of ${SOURCES} stations in a year`;
    return [
      {
        name: 'Lists, filters and station pages of a large log',
        value: quantile(ms, 0.95),
        unit: 'ms',
        goal: 150,
        better: 'less',
        note: `95th percentile of ${times.length} pages over ${of} (median ${quantile(ms, 0.5).toFixed(1)} ms, slowest ${slowest.ms.toFixed(0)} ms: ${slowest.what || 'all'})`,
      },
      {
        name: 'Plans that read a month of a large table through',
        value: Math.max(0.01, scans.length),
        unit: 'plans',
        goal: 0.01,
        better: 'less',
        note: `by EXPLAIN of each statement of ${FILTERS.length} filters and their first packet`,
      },
      {
        name: 'Rebuild while the station serves',
        value: perSecond,
        unit: 'receptions/s',
        goal: 20_000,
        better: 'more',
        note: `${of}, in ${seconds.toFixed(0)} s; slowest list meanwhile ${slowestMs.toFixed(0)} ms`,
      },
      {
        name: 'Disk for a packet with its first hearing',
        value: Number(size.octets) / RECEPTIONS,
        unit: 'octets',
        goal: 900,
        better: 'less',
        note: `tables and indexes with trails, readings and links, behind the rebuild: ${parts.map(({ name, octets }) => `${name} ${Math.round(Number(octets) / RECEPTIONS)}`).join(', ')}`,
      },
      {
        name: 'Most memory of the station',
        value: most / MEGABYTE,
        unit: 'MB',
        goal: 400,
        better: 'less',
        note: `resident, over the rebuild, all lists and all stations told three times; ${(before / MEGABYTE).toFixed(0)} MB without these`,
      },
    ];
  } finally {
    served?.child.kill('SIGTERM');
    if (served) await once(served.child, 'close').catch(() => undefined);
    await source.destroy();
    await database.drop();
  }
}
