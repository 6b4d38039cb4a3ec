import { spawn, type ChildProcess } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import type { Browser } from 'playwright-core';
import { launchBrowser } from '../scripts/lib/browser.mjs';
import { freePort } from '../scripts/lib/run.mjs';
import { accessibilityFaults, settled } from './testing/checker';
import { newDataFolder, ROOT, SIZES, startProgram, type Size, type Started } from './testing/rig';

/** The district with its modem on a port of our choosing, as equipment that somebody switches on later. */
const switchOn = (kiss: number): ChildProcess =>
  spawn(process.execPath, [join(ROOT, 'packages/stand-ins/dist/district.mjs')], {
    env: { ...process.env, TOMBOLO_KISS_PORT: String(kiss), TOMBOLO_SPEED: '10', TOMBOLO_DRILL_MIN: 'none' },
    stdio: 'ignore',
  });

let browser: Browser;
beforeAll(async () => {
  browser = await launchBrowser();
});
afterAll(() => browser.close());

describe.each(['phone', 'wide'] as const)('with nothing configured, on a %s screen', (size: Size) => {
  let folder: string;
  let started: Started;
  let district: ChildProcess | undefined;
  beforeAll(async () => {
    folder = newDataFolder();
    started = await startProgram(folder, ['--empty']);
  }, 150_000);
  afterAll(async () => {
    district?.kill();
    await started.interrupt();
    rmSync(folder, { recursive: true, force: true });
  }, 120_000);

  it('is led from nothing to the first station heard and a first text acknowledged', async () => {
    const kiss = await freePort();
    const context = await browser.newContext({ viewport: SIZES[size] });
    context.setDefaultTimeout(20_000);
    const page = await context.newPage();
    await page.goto(started.url);
    await page.getByRole('heading', { name: 'Who you are' }).waitFor();
    await page.getByLabel('Call sign').fill('QT2AR-7');
    await page.getByRole('button', { name: 'Keep it and go on' }).click();
    await page.getByText('give the SSID in its own field').waitFor();
    await page.getByLabel('Call sign').fill('qt2ar');
    await page.getByLabel('Name', { exact: true }).fill('Runa Arkwell');
    await page.getByRole('button', { name: 'Keep it and go on' }).click();

    await page.getByRole('heading', { name: 'Licence', level: 2 }).waitFor();
    await page.getByRole('checkbox', { name: 'I hold a licence that covers transmitting as QT2AR' }).click();
    await page.getByRole('link', { name: '2 Licence: answered' }).waitFor();
    await page.getByRole('button', { name: 'Go on' }).click();

    await page.getByRole('radio', { name: 'North America' }).click();
    await page.getByLabel('Position').fill('41.2690 -43.2850');
    await page.getByRole('button', { name: 'We are there' }).click();
    await page.getByLabel('Another position').waitFor();
    await page.getByRole('button', { name: 'Go on' }).click();

    await page.getByLabel('Port').fill(String(kiss));
    await page.getByRole('button', { name: 'Add and connect' }).click();
    // The equipment is not switched on yet: it says so, and what to do.
    await page.getByText('Modem is not connected').waitFor();
    await settled(page);
    expect(await accessibilityFaults(page)).toEqual([]);
    district = switchOn(kiss);
    await page.getByText(/^Heard your first station, /).waitFor({ timeout: 90_000 });
    await page.reload();
    await page.getByText(/^Heard your first station, /).waitFor();
    await page.getByRole('button', { name: 'Go to Traffic' }).click();
    await page.getByRole('heading', { name: 'Traffic', level: 1 }).waitFor();
    // Not led there again.
    await page.goto(started.url);
    await page.getByRole('heading', { name: 'Traffic', level: 1 }).waitFor();

    await page.getByRole('link', { name: 'Write', exact: true }).click();
    await page.getByRole('textbox', { name: 'To', exact: true }).fill('QT7SH-5');
    await page.getByRole('textbox', { name: 'Text', exact: true }).fill('First one');
    await page.getByRole('checkbox', { name: /An antenna is connected/ }).click();
    await page.getByRole('button', { name: /^Send by 144\.390/ }).click();
    await page
      .getByRole('heading', { name: /^(delivered: acknowledged in the name of QT7SH-5|answered by QT7SH-5)$/ })
      .waitFor({ timeout: 60_000 });
    await context.close();
  }, 240_000);
});
