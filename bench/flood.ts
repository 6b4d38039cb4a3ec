import { createDatabase, eventually, startModem, startWithModem } from '../apps/station/src/testing/harness';
import { launchBrowser } from '../scripts/lib/browser.mjs';
import { quantile, type Figure } from './figure';
import { mixedLine } from './traffic-mix';

const A_SECOND = 500;
const SECONDS = 60;
const STATIONS = 300;
const TICK_MS = 20;

/** Five hundred packets a second for a minute, while somebody works with the chart: how long a press of a button takes to show. */
export async function flood(): Promise<Figure[]> {
  const webFolder = process.env.TOMBOLO_WEB;
  if (!webFolder) throw new Error('run the benchmark by "npm run bench"');
  const database = await createDatabase();
  const modem = await startModem();
  const station = await startWithModem(database.url, modem, {}, { webFolder });
  const browser = await launchBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 390, height: 844 } });
    await page.goto(`${station.url}/chart`);
    await page.getByRole('button', { name: 'List', exact: true }).waitFor();
    const start = performance.now();
    let sent = 0;
    const timer = setInterval(() => {
      const due = Math.min(A_SECOND * SECONDS, Math.floor(((performance.now() - start) / 1000) * A_SECOND));
      for (; sent < due; sent++) {
        const n = sent % STATIONS;
        modem.hear(mixedLine(sent, `QT${n % 10}F${String.fromCharCode(65 + (n % 26))}-${Math.floor(n / 26)}`));
      }
    }, TICK_MS);
    const presses: number[] = [];
    while (performance.now() - start < SECONDS * 1000) {
      for (const name of ['List', 'Map'] as const)
        presses.push(
          await page.evaluate(async (title) => {
            const button = Array.from(document.querySelectorAll<HTMLElement>('[role=button], button')).find(
              (one) => one.textContent === title,
            )!;
            const pressed = performance.now();
            button.click();
            // The second frame behind the press is the first that can show what it did.
            await new Promise((shown) => requestAnimationFrame(() => requestAnimationFrame(shown)));
            return performance.now() - pressed;
          }, name),
        );
      await page.waitForTimeout(500);
    }
    clearInterval(timer);
    const stopped = performance.now();
    const stored = async () =>
      Number((await station.context.database.query('select count(*) as n from reception'))[0].n) >= sent;
    await eventually(stored, 60);
    const backlogS = (performance.now() - stopped) / 1000;
    return [
      {
        name: 'Press of a button during a flood',
        value: quantile(presses, 0.95),
        unit: 'ms',
        goal: 300,
        better: 'less',
        note: `95th percentile of ${presses.length} presses that change list and map, at ${A_SECOND} packets/s for ${SECONDS} s from ${STATIONS} stations (median ${quantile(presses, 0.5).toFixed(0)} ms)`,
      },
      {
        name: 'Everything stored after a flood',
        value: backlogS,
        unit: 's',
        goal: 5,
        better: 'less',
        note: `${sent} packets, from the last one sent`,
      },
    ];
  } finally {
    await browser.close();
    await station.stop();
    await modem.stop();
    await database.drop();
  }
}
