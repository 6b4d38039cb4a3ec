import type { Page } from 'playwright-core';
import { createDatabase, eventually, startModem, startWithModem } from '../apps/station/src/testing/harness';
import { launchBrowser } from '../scripts/lib/browser.mjs';
import type { Figure } from './figure';
import { mixedLine } from './traffic-mix';

const ROWS = 1000;
const PER_S = 5;
const SECONDS = 20;
const SLOWED = 4;
const STATIONS = 1200;
const TICK_MS = 50;
/** Without a long task for so long, a page has come to rest. */
const QUIET_MS = 1000;

const callOf = (n: number): string =>
  `QT${n % 10}${String.fromCharCode(65 + (Math.floor(n / 10) % 26))}${String.fromCharCode(65 + (Math.floor(n / 260) % 26))}-${n % 16}`;

/** Scrolls whatever does to its end, or to its beginning. */
const scroll = (page: Page, to: 'top' | 'end') =>
  page.evaluate((where) => {
    for (const element of Array.from(document.querySelectorAll('[role="main"] *, main *')))
      element.scrollTop = where === 'top' ? 0 : element.scrollHeight;
  }, to);

async function showAll(page: Page): Promise<void> {
  const more = page.getByRole('button', { name: 'Show older', exact: true });
  for (let pages = 1; pages * 50 < ROWS; pages++) {
    await scroll(page, 'end');
    await more.click();
    await page.waitForFunction(() => document.querySelector('[role="progressbar"]') === null);
  }
}

/** Lists that grow long, and how the most of them is brought onto the screen. */
const LISTS: readonly { readonly name: string; readonly path: string; fill(page: Page): Promise<void> }[] = [
  { name: 'packets heard, at their end', path: '/log?tab=heard', fill: showAll },
  {
    name: 'packets heard, at their top',
    path: '/log?tab=heard',
    async fill(page) {
      await showAll(page);
      await scroll(page, 'top');
    },
  },
  { name: 'stations', path: '/chart', fill: (page) => page.getByRole('button', { name: 'List', exact: true }).click() },
];

/** The other places have come, which they do once, and what scrolling to the row had to draw is drawn. */
async function atRest(page: Page): Promise<void> {
  await page.waitForFunction(() =>
    performance.getEntriesByType('resource').some(({ name }) => /\/people-[^/]+\.js/.test(name)),
  );
  await page.waitForFunction((quietMs) => {
    const seen = window as unknown as { tasks: number[]; quietSince?: number; counted?: number };
    if (seen.counted !== seen.tasks.length)
      Object.assign(seen, { counted: seen.tasks.length, quietSince: performance.now() });
    return performance.now() - seen.quietSince! > quietMs;
  }, QUIET_MS);
  await page.evaluate(() => (window as unknown as { tasks: number[] }).tasks.splice(0));
}

/** A thousand rows while packets come in: the longest that a slow phone does not answer. */
export async function longLists(): Promise<Figure[]> {
  const database = await createDatabase();
  const modem = await startModem();
  const station = await startWithModem(database.url, modem, {}, { webFolder: process.env.TOMBOLO_WEB! });
  const browser = await launchBrowser();
  let sent = 0;
  const hear = () => {
    modem.hear(mixedLine(sent, callOf(sent % STATIONS)));
    sent++;
  };
  try {
    while (sent < ROWS * 2) hear();
    const stored = async () =>
      Number((await station.context.database.query('select count(*) as n from reception'))[0].n) >= sent;
    await eventually(stored, 60);
    const figures: Figure[] = [];
    for (const { name, path, fill } of LISTS) {
      const page = await browser.newPage({ viewport: { width: 390, height: 844 } });
      await page.goto(station.url + path);
      await page.getByRole('heading', { level: 1 }).first().waitFor();
      await fill(page);
      const devtools = await page.context().newCDPSession(page);
      await devtools.send('Emulation.setCPUThrottlingRate', { rate: SLOWED });
      await page.evaluate(() => {
        const tasks: number[] = [];
        Object.assign(window, { tasks });
        new PerformanceObserver((list) => tasks.push(...list.getEntries().map(({ duration }) => duration))).observe({
          type: 'longtask',
        });
      });
      await atRest(page);
      const began = performance.now();
      const until = sent;
      const timer = setInterval(() => {
        const due = until + Math.floor(((performance.now() - began) / 1000) * PER_S);
        while (sent < due) hear();
      }, TICK_MS);
      await page.waitForTimeout(SECONDS * 1000);
      clearInterval(timer);
      const tasks = await page.evaluate(() => (window as unknown as { tasks: number[] }).tasks);
      figures.push({
        name: `Longest task with ${ROWS} ${name}`,
        value: Math.max(1, ...tasks),
        unit: 'ms',
        goal: 100,
        better: 'less',
        note: `CPU ${SLOWED} times slower, ${PER_S} packets/s for ${SECONDS} s; ${tasks.length} tasks over 50 ms, ${Math.round(tasks.reduce((sum, ms) => sum + ms, 0))} ms in all`,
      });
      await page.close();
    }
    return figures;
  } finally {
    await browser.close();
    await station.stop();
    await modem.stop();
    await database.drop();
  }
}
