import type { Page } from 'playwright-core';
import { startRig, SIZES as PIXELS, type Rig, type Size } from './testing/rig';

const SIZES = Object.keys(PIXELS) as Size[];
/** Parts of the program that are loaded when a place is opened. */
const PARTS = /\/_expo\/static\/js\/web\/(?!entry|__common|_layout|index)[^/]+\.js/;

/** The places come by themselves when the first one rests. */
const allParts = (page: Page) =>
  page.waitForFunction(() =>
    performance.getEntriesByType('resource').some(({ name }) => /\/people-[^/]+\.js/.test(name)),
  );

let rig: Rig;
beforeAll(async () => {
  rig = await startRig();
  await rig.api('/settings', { method: 'PATCH', body: { licenceConfirmed: true, antennaConfirmed: true } });
}, 150_000);
afterAll(() => rig.stop(), 60_000);

describe.each(SIZES)('with a network that comes and goes, on a %s screen', (size) => {
  it('a place whose part is missing says so, the others go on, and it is there when the part is', async () => {
    const { page, context } = await rig.open(size, '/traffic');
    await page.getByRole('heading', { name: 'Traffic', level: 1 }).waitFor();
    // The map comes when it is shown.
    await allParts(page);
    await page.route(PARTS, (route) => route.abort());
    await page.getByRole('link', { name: 'Chart', exact: true }).click();
    await page.getByRole('heading', { name: 'This place broke', level: 1 }).waitFor();
    await page.getByRole('link', { name: 'Write', exact: true }).click();
    await page.getByRole('textbox', { name: 'Text', exact: true }).fill('Still here');
    await page.unroute(PARTS);
    await page.getByRole('link', { name: 'Chart', exact: true }).click();
    const again = page.getByRole('button', { name: 'Load the page again' });
    const map = page.getByRole('application', { name: /^Map of stations/ });
    await again.or(map).first().waitFor();
    // A part that failed once may be remembered as missing: the page is loaded again then, and what was written is kept.
    if (await again.isVisible()) await again.click();
    await map.waitFor();
    await page.getByRole('link', { name: 'Write', exact: true }).click();
    await page
      .getByRole('link', { name: /^To nobody yet: Still here/ })
      .or(page.getByText('Still here'))
      .first()
      .waitFor();
    await context.close();
  }, 90_000);

  it('a browser that believes to be offline loads and sends all the same: the station is on this machine', async () => {
    const { page, context } = await rig.open(size, '/traffic');
    await page.getByRole('heading', { name: 'Traffic', level: 1 }).waitFor();
    await page.evaluate(() => {
      Object.defineProperty(navigator, 'onLine', { value: false, configurable: true });
      dispatchEvent(new Event('offline'));
    });
    await page.getByRole('link', { name: 'Bearers', exact: true }).click();
    await page.getByRole('heading', { name: /^Packet radio/ }).waitFor();
    await page.getByRole('link', { name: 'Write', exact: true }).click();
    await page.getByRole('textbox', { name: 'To', exact: true }).fill('QT4LB-8');
    await page.getByRole('textbox', { name: 'Text', exact: true }).fill(`Without a network, ${size}`);
    await page.getByRole('button', { name: /^Send by 144\.390/ }).click();
    await page.getByText(`Without a network, ${size}`).first().waitFor();
    await page
      .getByRole('heading', { name: /^(sent|relayed|delivered|answered)/ })
      .first()
      .waitFor({ timeout: 60_000 });
    await context.close();
  }, 120_000);

  it('a station that stops answering is waited for within bounds, keeps what was written, and sends it once when it is back', async () => {
    const { page, context } = await rig.open(size, '/write');
    const text = `Held up, ${size}`;
    await page.getByRole('textbox', { name: 'To', exact: true }).fill('QT4LB-8');
    await page.getByRole('textbox', { name: 'Text', exact: true }).fill(text);
    const send = page.getByRole('button', { name: /^Send by 144\.390/ });
    await send.waitFor();
    const pid = rig.started.pidOf('station.mjs')!;
    process.kill(pid, 'SIGSTOP');
    try {
      await send.click();
      // Nothing is claimed meanwhile, and the wait has an end and a word.
      await page.getByText('Not queued; what you wrote is kept').waitFor({ timeout: 40_000 });
      expect(await page.getByRole('textbox', { name: 'Text', exact: true }).inputValue()).toBe(text);
    } finally {
      process.kill(pid, 'SIGCONT');
    }
    // By keyboard: what stands above the button may still be coming back, and move it from under a pointer.
    await send.press('Enter');
    await page
      .getByRole('heading', { name: /^(sent|relayed|delivered|answered)/ })
      .first()
      .waitFor({ timeout: 60_000 });
    const { rows } = await rig.api(`/items?text=${encodeURIComponent(text)}`);
    expect(rows).toHaveLength(1);
    await context.close();
  }, 150_000);

  it('a station that is gone is said to be, on every place, and its word goes when it is back', async () => {
    const { page, context } = await rig.open(size, '/traffic');
    let gone = false;
    await page.routeWebSocket('**/api/**', (socket) => (gone ? socket.close() : void socket.connectToServer()));
    await page.route('**/api/**', (route) => (gone ? route.abort() : route.continue()));
    await page.reload();
    await page.locator('a[href^="/traffic/"]').first().waitFor();
    await allParts(page);
    const lost = page.getByText('No connection to the station. What you see may be old; it is tried again.');
    gone = true;
    process.kill(rig.started.pidOf('station.mjs')!, 'SIGKILL');
    await lost.waitFor({ timeout: 30_000 });
    await page.getByRole('link', { name: 'Bearers', exact: true }).click();
    await page.getByRole('heading', { name: 'Bearers', level: 1 }).waitFor();
    await lost.waitFor();
    await page.getByRole('link', { name: 'Traffic', exact: true }).click();
    // What was loaded is still there to read.
    await page.locator('a[href^="/traffic/"]').first().waitFor();
    gone = false;
    await lost.waitFor({ state: 'detached', timeout: 60_000 });
    await page.getByRole('link', { name: 'Bearers', exact: true }).click();
    await page.getByRole('heading', { name: /^Packet radio/ }).waitFor();
    await context.close();
  }, 150_000);
});
