import type { Page } from 'playwright-core';
import { launchBrowser } from '../scripts/lib/browser.mjs';
import { accessibilityFaults, settled, tooSmall } from './testing/checker';
import { SIZES, startRig, type Rig } from './testing/rig';

let rig: Rig;
beforeAll(async () => {
  rig = await startRig();
}, 150_000);
afterAll(() => rig.stop(), 60_000);

const PLACES = [
  '/traffic',
  '/chart',
  '/chart?station=QT3TK-14',
  '/chart/station?call=QT5WX-13',
  '/chart/weather',
  '/chart/telemetry',
  '/chart/links',
  '/chart/calling',
  '/chart/maps',
  '/write',
  '/bearers',
  '/log',
  '/log?tab=heard',
  '/log?tab=recordings',
  '/tools',
  '/tools/settings',
  '/tools/people',
  '/tools/services',
  '/tools/phrases',
  '/start',
  '/start?step=licence',
  '/start?step=where',
  '/start?step=have',
  '/start?step=listen',
  '/tools/position',
  '/tools/trackers',
  '/tools/objects',
  '/tools/reach?to=QT0TH-3',
  '/tools/what-if',
  '/tools/mesh-plan',
  '/tools/forecasts',
  '/tools/bulletins',
  '/tools/repeating',
  '/tools/positions-out',
  '/tools/emergency',
  '/tools/beacon',
  '/tools/equipment',
  '/tools/ready',
  '/tools/serial',
  '/tools/ready?symptom=nothing-goes-out',
  '/tools/rules',
  '/tools/backup',
  '/log?tab=by-itself',
  '/log?tab=kept',
  '/nowhere',
] as const;
const tooWide = (page: Page): Promise<number> =>
  page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);

describe('every place', () => {
  it('passes the accessibility checker and needs no sideways scrolling, on a phone and when the window grows', async () => {
    const { page, context } = await rig.open('phone', '/traffic', { light: 'day' });
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    const faults: string[] = [];
    const tell = (path: string, found: readonly string[]) => faults.push(...found.map((fault) => `${path}: ${fault}`));
    const fits = async (path: string) => {
      const over = await tooWide(page);
      if (over > 0) tell(path, [`${over} px too wide at ${page.viewportSize()!.width} px`]);
    };
    for (const path of PLACES) {
      await page.setViewportSize(SIZES.phone);
      await page.goto(rig.started.url + path);
      await settled(page);
      tell(path, await accessibilityFaults(page));
      tell(path, await tooSmall(page));
      await fits(path);
      // Reflow, WCAG 1.4.10: as narrow as a wide screen is at 400 %.
      await page.setViewportSize({ width: 320, height: 256 });
      await fits(path);
      await page.setViewportSize(SIZES.wide);
      await settled(page);
      tell(`${path}, wide`, await accessibilityFaults(page));
      await fits(path);
    }
    expect(faults).toEqual([]);
    expect(errors).toEqual([]);
    await context.close();
  }, 450_000);
});

describe('before the program is there', () => {
  it.each([
    ['day', 'rgb(244, 239, 227)'],
    ['dusk', 'rgb(20, 32, 43)'],
    ['watch', 'rgb(17, 4, 4)'],
  ] as const)('the page has the paper of the light of %s', async (light, paper) => {
    const { page, context } = await rig.open('phone', '/traffic', { light });
    await page.route('**/_expo/**', (route) => route.abort());
    await page.reload({ waitUntil: 'domcontentloaded' });
    expect(await page.evaluate(() => getComputedStyle(document.documentElement).backgroundColor)).toBe(paper);
    await context.close();
  });
});

it('text is as large as the browser is told to write it', async () => {
  const browser = await launchBrowser(['--blink-settings=defaultFontSize=24']);
  const page = await browser.newPage({ viewport: SIZES.phone });
  await page.goto(`${rig.started.url}/tools`);
  const heading = page.getByRole('heading', { level: 1 });
  await heading.waitFor();
  // 26 px at the usual 16.
  expect(await heading.evaluate((element) => getComputedStyle(element).fontSize)).toBe('39px');
  await browser.close();
}, 120_000);

describe('a wide screen', () => {
  it('goes to a place by one key, lists the keys, and leaves typing alone', async () => {
    const { page, context } = await rig.open('wide', '/traffic');
    await page.getByRole('heading', { name: 'Traffic', level: 1 }).waitFor();
    await page.keyboard.press('?');
    await page.getByRole('heading', { name: 'Keys' }).waitFor();
    await page.getByRole('button', { name: 'Close' }).click();
    await page.keyboard.press('w');
    await page.getByRole('textbox', { name: 'To', exact: true }).click();
    await page.keyboard.type('tlc');
    expect(await page.getByRole('textbox', { name: 'To', exact: true }).inputValue()).toBe('TLC');
    await context.close();
  }, 120_000);

  it('keeps list, item and packet beside each other', async () => {
    const { page, context } = await rig.open('wide', '/traffic');
    await page
      .getByRole('link', { name: /from QT7SH-5/ })
      .first()
      .click();
    await page
      .getByRole('link', { name: /^Open the packet: Arrived/ })
      .first()
      .click();
    for (const name of ['Traffic', 'From QT7SH-5', 'Packet'])
      await page.getByRole('heading', { name, level: 1 }).waitFor();
    await context.close();
  }, 120_000);
});

describe('links', () => {
  it('says why a bearer is down, and how to get rid of it', async () => {
    const { page, context } = await rig.open('phone', '/bearers');
    await page.getByRole('button', { name: 'Add a bearer' }).click();
    await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Nobody there');
    await page.getByRole('textbox', { name: 'TCP port', exact: true }).fill('1');
    await page.getByRole('button', { name: 'Add and connect' }).click();
    await page.getByText(/Down since .*: nothing listens at that address and port/).waitFor();
    await page.getByRole('button', { name: 'Switch off: Nobody there' }).click();
    await page.getByRole('button', { name: 'Remove: Nobody there' }).click();
    await page.getByRole('button', { name: 'Remove for good: Nobody there' }).click();
    await page.getByRole('heading', { name: 'Nobody there' }).waitFor({ state: 'detached' });
    await context.close();
  }, 120_000);
});

describe('settings', () => {
  it('check the call sign as it is typed and keep what was saved', async () => {
    const { page, context } = await rig.open('phone', '/tools/settings');
    const call = page.getByRole('textbox', { name: 'Call sign', exact: true });
    await call.fill('QTNOPE');
    await call.blur();
    await page.getByText('a station call sign contains a digit').waitFor();
    await call.fill('QT2AR');
    await page.getByRole('textbox', { name: 'Tries in all', exact: true }).fill('7');
    await page.getByRole('button', { name: 'Save settings' }).click();
    await page.getByText('Saved', { exact: true }).waitFor();
    expect(await rig.api('/settings')).toMatchObject({ call: 'QT2AR', retry: { tries: 7 } });
    await context.close();
  }, 120_000);
});
