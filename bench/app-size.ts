import { chromium } from 'playwright-core';
import { createDatabase, startTestStation } from '../apps/station/src/testing/harness';
import type { Figure } from './figure';

const MEGABYTE = 1_000_000;

/** What a browser with an empty cache loads until Traffic can be used. */
export async function appSize(): Promise<Figure[]> {
  const database = await createDatabase();
  const station = await startTestStation(database.url, { webFolder: process.env.TOMBOLO_WEB! });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-sync'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 390, height: 844 } });
    const network = await page.context().newCDPSession(page);
    await network.send('Network.enable');
    let octets = 0;
    let requests = 0;
    network.on('Network.loadingFinished', ({ encodedDataLength }) => {
      octets += encodedDataLength;
      requests++;
    });
    const start = performance.now();
    await page.goto(station.url);
    await page.getByRole('heading', { name: 'Traffic', level: 1 }).waitFor();
    const seconds = (performance.now() - start) / 1000;
    await page.waitForLoadState('networkidle');
    return [
      {
        name: 'Loaded to the first useful screen',
        value: octets / MEGABYTE,
        unit: 'MB',
        goal: 2,
        better: 'less',
        note: `compressed, as counted by the browser over ${requests} requests, fonts included; shown after ${seconds.toFixed(1)} s`,
      },
    ];
  } finally {
    await browser.close();
    await station.stop();
    await database.drop();
  }
}
