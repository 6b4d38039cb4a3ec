import type { Browser } from 'playwright-core';
import { apiOf, createDatabase, startTestStation } from '../apps/station/src/testing/harness';
import { launchBrowser } from '../scripts/lib/browser.mjs';
import { median, type Figure } from './figure';

const KILOBYTE = 1000;
const SLOWED = 4;
const TRIES = 9;
/** Places whose load is counted by themselves, each from an empty cache. */
const ROUTES = ['/traffic', '/write', '/chart', '/bearers', '/log', '/tools/settings'];

interface Start {
  readonly coldS: number;
  readonly warmS: number;
  readonly octets: number;
}

/** From the address to the first heading, on a phone a quarter as fast as this machine. */
async function startOf(browser: Browser, url: string): Promise<Start> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  const devtools = await context.newCDPSession(page);
  await devtools.send('Network.enable');
  await devtools.send('Emulation.setCPUThrottlingRate', { rate: SLOWED });
  let octets = 0;
  devtools.on('Network.loadingFinished', ({ encodedDataLength }) => (octets += encodedDataLength));
  const shown = async (go: () => Promise<unknown>): Promise<number> => {
    const from = performance.now();
    await go();
    await page.getByRole('heading').first().waitFor();
    return (performance.now() - from) / 1000;
  };
  const coldS = await shown(() => page.goto(url, { waitUntil: 'commit' }));
  const toFirst = octets;
  await page.waitForLoadState('networkidle');
  const warmS = await shown(() => page.reload({ waitUntil: 'commit' }));
  await context.close();
  return { coldS, warmS, octets: toFirst };
}

/** How soon and from how many octets Traffic can be used, against a page of the same frameworks with one line of text. */
export async function start(): Promise<Figure[]> {
  const database = await createDatabase();
  const ours = await startTestStation(database.url, { webFolder: process.env.TOMBOLO_WEB! });
  // As on any day but the first, on which it leads to the first steps.
  await apiOf(ours).patch('/settings', { call: 'QT2AR' });
  const bare = await startTestStation(database.url, { webFolder: process.env.TOMBOLO_BARE! });
  const browser = await launchBrowser();
  try {
    const starts = { ours: [] as Start[], bare: [] as Start[] };
    for (let i = 0; i < TRIES; i++) {
      starts.bare.push(await startOf(browser, bare.url));
      starts.ours.push(await startOf(browser, `${ours.url}/traffic`));
    }
    const byRoute = [];
    for (const route of ROUTES)
      byRoute.push(`${route} ${Math.round((await startOf(browser, ours.url + route)).octets / KILOBYTE)} kB`);
    const of = (of: keyof typeof starts, what: keyof Start) => median(starts[of].map((one) => one[what]));
    const figure = (name: string, what: 'coldS' | 'warmS', goal: number): Figure[] => [
      {
        name: `${name} start beyond the bare shell`,
        value: Math.max(0.001, of('ours', what) - of('bare', what)),
        unit: 's',
        goal: 0.6,
        better: 'less',
        note: `to the first heading on a phone, CPU ${SLOWED} times slower, median of ${TRIES}; the bare shell takes ${of('bare', what).toFixed(2)} s`,
      },
      {
        name: `${name} start`,
        value: of('ours', what),
        unit: 's',
        goal,
        better: 'less',
        note: `the same; aimed at on loopback`,
      },
    ];
    return [
      ...figure('Cold', 'coldS', 2),
      ...figure('Warm', 'warmS', 1.2),
      {
        name: 'Loaded to the first useful screen',
        value: of('ours', 'octets') / KILOBYTE,
        unit: 'kB',
        goal: 700,
        better: 'less',
        note: `compressed, as counted by the browser, typefaces included; by route: ${byRoute.join(', ')}`,
      },
    ];
  } finally {
    await browser.close();
    await ours.stop();
    await bare.stop();
    await database.drop();
  }
}
