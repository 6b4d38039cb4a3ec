import type { Page } from 'playwright-core';
import { createDatabase, openSettings, startTestStation } from '../apps/station/src/testing/harness';
import { sight } from '../apps/station/src/ingest/derived/sighting';
import type { StationState } from '../apps/station/src/ingest/derived/station-state';
import { decodeInformation, encodeUncompressedPosition, octetsOfText, pointAt } from '@tombolo/core';
import { launchBrowser } from '../scripts/lib/browser.mjs';
import { quantile, type Figure } from './figure';
import { framesDuring } from './frames';

const STATIONS = 5000;
const POINTS = 20;
const CENTRE = { latitude: 41.2, longitude: -43.4 };
const SIZES = { phone: { width: 390, height: 844 }, wide: { width: 1280, height: 800 } } as const;
const PATH = {
  how: 'direct',
  via: [],
  unnamedHops: 0,
  unused: [],
  gate: null,
  heardFrom: null,
  hops: [],
  heardFromCertain: true,
  firstHearer: null,
} as const;

/** Five thousand stations within two hundred kilometres, each with a trail of twenty places, as the ingest would leave them. */
async function fill(query: (sql: string, parameters?: unknown[]) => Promise<unknown>): Promise<void> {
  const states: string[] = [];
  const trail: (string | number)[][] = [[], [], [], []];
  const now = Date.now();
  for (let n = 0; n < STATIONS; n++) {
    const call = `QT${n % 10}${String.fromCharCode(65 + (n % 26))}${String.fromCharCode(65 + (Math.floor(n / 26) % 26))}-${n % 16}`;
    let place = pointAt(CENTRE, (n * 137.5) % 360, 2 + (n % 200));
    let state: StationState | null = null;
    for (let i = 0; i < POINTS; i++) {
      place = pointAt(place, (n * 53 + i * 20) % 360, 0.6);
      const atMs = now - (POINTS - i) * 60_000;
      const info = octetsOfText(
        `=${encodeUncompressedPosition({ ...place, symbol: { table: '/', code: '>-k[_sjb'[n % 8]! }, comment: `Number ${n}` })}`,
      );
      const read = decodeInformation(info, 'APRS');
      if (!read.ok) throw new Error(read.error.reason);
      const sighting = {
        atMs,
        path: PATH,
        words: 'heard direct',
        bearerId: 'radio',
        information: read.value,
        source: call,
        isNewPacket: true,
      };
      state = sight(state, `${call}`, sighting).state;
      [call, new Date(atMs).toISOString(), place.latitude, place.longitude].forEach((value, k) =>
        trail[k]!.push(value),
      );
    }
    states.push(JSON.stringify(state));
  }
  await query(
    `insert into station select distinct on (s->>'call') s->>'call', s, now(), now() from unnest($1::json[]) as t (s)`,
    [states],
  );
  await query(
    `insert into trail_point (call, packet_id, latitude, longitude)
     select call, id_at(at, row_number() over ()), y, x from unnest($1::text[], $2::timestamptz[], $3::float8[], $4::float8[]) as t (call, at, y, x)`,
    trail,
  );
  // As the database does by itself after a while.
  await query('analyze');
}

/** Frames a second while the chart is dragged to and fro. */
async function pan(page: Page, size: { width: number; height: number }): Promise<number> {
  const [x, y] = [size.width * 0.6, size.height * 0.5];
  await page.mouse.move(x, y);
  await page.mouse.down();
  const rate = await framesDuring(page, async () => {
    for (let i = 1; i <= 120; i++) await page.mouse.move(x + 90 * Math.sin(i / 12), y + 60 * Math.sin(i / 17));
  });
  await page.mouse.up();
  return rate;
}

/** When stations and when their trails were first drawn, ms since the page began. */
async function painted(page: Page): Promise<{ stations: number; trails: number }> {
  const times = await page.waitForFunction(
    () => {
      const [stations] = performance.getEntriesByName('stations painted');
      const [trails] = performance.getEntriesByName('trails painted');
      return stations && trails ? { stations: stations.startTime, trails: trails.startTime } : null;
    },
    null,
    { timeout: 30_000 },
  );
  return (await times.jsonValue())!;
}

/** Time from opening the chart until the browser has drawn it, and how smoothly it is dragged. */
export async function chart(): Promise<Figure[]> {
  const webFolder = process.env.TOMBOLO_WEB;
  if (!webFolder) throw new Error('run the benchmark by "npm run bench"');
  const database = await createDatabase();
  const station = await startTestStation(database.url, { webFolder });
  const browser = await launchBrowser();
  try {
    const { context } = station;
    await fetch(`${station.url}/api/v1/settings`, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(openSettings),
    });
    await fill((sql, parameters) => context.database.query(sql, parameters));
    const figures: Figure[] = [];
    for (const [name, size] of Object.entries(SIZES)) {
      const stations: number[] = [];
      const whole: number[] = [];
      const rates: number[] = [];
      const cold: number[] = [];
      for (let round = 0; round < 3; round++) {
        const browserContext = await browser.newContext({ viewport: size });
        const page = await browserContext.newPage();
        await page.goto(`${station.url}/traffic`);
        await page.getByRole('heading', { name: 'Traffic', level: 1 }).waitFor();
        await page.waitForLoadState('networkidle');
        const opened = await page.evaluate(() => performance.now());
        await page.getByRole('link', { name: 'Chart' }).click();
        const times = await painted(page);
        stations.push(times.stations - opened);
        whole.push(Math.max(times.stations, times.trails) - opened);
        // Until the outlines of the world are there too.
        await page.waitForLoadState('networkidle');
        rates.push(await pan(page, size));
        await page.close();
        // The same browser, as on the second visit: the program comes out of its store, the data does not.
        const again = await browserContext.newPage();
        await again.goto(`${station.url}/chart`);
        const cool = await painted(again);
        cold.push(Math.max(cool.stations, cool.trails));
        await browserContext.close();
      }
      const note = `${STATIONS} stations with ${POINTS} trail points each at ${size.width}×${size.height}, median of ${whole.length}`;
      figures.push(
        {
          name: `Chart first drawn after it is chosen, ${name}`,
          value: quantile(whole, 0.5),
          unit: 'ms',
          goal: 1500,
          better: 'less',
          note: `all stations and trails; ${note}; stations alone ${Math.round(quantile(stations, 0.5))} ms; ${Math.round(quantile(cold, 0.5))} ms from opening its address, with loading the program`,
        },
        {
          name: `Chart dragged, ${name}`,
          value: quantile(rates, 0.5),
          unit: 'frames/s',
          goal: 40,
          better: 'more',
          note,
        },
      );
    }
    return figures;
  } finally {
    await browser.close();
    await station.stop();
    await database.drop();
  }
}
