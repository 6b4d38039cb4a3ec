import { startRig, SIZES as PIXELS, type Rig, type Size } from './testing/rig';

const SIZES = Object.keys(PIXELS) as Size[];
/** Parts of the program that are loaded when a place is opened. */
const PARTS = /\/_expo\/static\/js\/web\/(?!entry|__common|_layout|index)[^/]+\.js/;

describe.each(SIZES)('with a network that comes and goes, on a %s screen', (size) => {
  let rig: Rig;
  beforeAll(async () => {
    rig = await startRig();
    await rig.api('/settings', { method: 'PATCH', body: { licenceConfirmed: true, antennaConfirmed: true } });
  }, 150_000);
  afterAll(() => rig.stop(), 60_000);

  it('a place whose part is missing says so, the others go on, and it is there when the part is', async () => {
    const { page, context } = await rig.open(size, '/traffic');
    await page.getByRole('heading', { name: 'Traffic', level: 1 }).waitFor();
    // The places come by themselves when the first one rests, the map when it is shown.
    await page.waitForFunction(() =>
      performance.getEntriesByType('resource').some(({ name }) => /\/people-[^/]+\.js/.test(name)),
    );
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
});
