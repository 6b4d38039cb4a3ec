import { startRig, SIZES as PIXELS, type Rig, type Size } from './testing/rig';

let rig: Rig;
beforeAll(async () => {
  rig = await startRig();
}, 150_000);
afterAll(() => rig.stop(), 60_000);

/** How far the page is scrolled that scrolls farthest, px. */
const SCROLLED = () =>
  Math.max(...Array.from(document.querySelectorAll('main *, [role="main"] *')).map((e) => e.scrollTop));

describe.each(Object.keys(PIXELS) as Size[])('the history of the browser, on a %s screen', (size) => {
  it('shows what the address says, back and forward', async () => {
    const { page, context } = await rig.open(size, '/traffic');
    const heading = (name: string) => page.getByRole('heading', { name, level: 1 }).waitFor();
    await heading('Traffic');
    await page.getByRole('link', { name: 'Log', exact: true }).click();
    await heading('Log');
    await page.getByRole('link', { name: 'Write', exact: true }).click();
    await heading('Write');
    await page.goBack();
    await heading('Log');
    await page.goBack();
    await heading('Traffic');
    await page.goForward();
    await heading('Log');
    await page.goForward();
    await heading('Write');
    await context.close();
  }, 120_000);

  it('finds search, filters and place in a list as they were left, and so does a reload', async () => {
    const { page, context } = await rig.open(size, '/log?tab=heard');
    await page.getByRole('textbox', { name: 'Search', exact: true }).fill('QT');
    await page.getByRole('button', { name: 'More filters' }).click();
    await page.getByRole('radio', { name: 'Positions', exact: true }).click();
    await page.waitForURL(/text=QT&.*kind=position|kind=position&.*text=QT/);
    await page.reload();
    await page.waitForFunction(
      () => (document.querySelector('input[aria-label="Search"]') as HTMLInputElement | null)?.value === 'QT',
    );
    // Nothing comes on top of what was heard until then: the rows stay where they are.
    const until = new Date(Date.now() - 60_000).toISOString().slice(0, 16).replace('T', ' ');
    await page.goto(`${rig.started.url}/log?tab=heard&until=${encodeURIComponent(until)}`);
    const rows = page.locator('a[href^="/packet/"]');
    await rows.first().waitFor();
    await rows.nth(8).scrollIntoViewIfNeeded();
    const before = await page.evaluate(SCROLLED);
    expect(before).toBeGreaterThan(100);
    await page.getByRole('link', { name: 'Traffic', exact: true }).click();
    await page.getByRole('heading', { name: 'Traffic', level: 1 }).waitFor();
    await page.goBack();
    await rows.first().waitFor();
    await page.waitForFunction(
      (wanted) =>
        Math.abs(
          Math.max(...Array.from(document.querySelectorAll('main *, [role="main"] *')).map((e) => e.scrollTop)) -
            wanted,
        ) < 5,
      before,
    );
    await context.close();
  }, 120_000);

  it('finds the filter of the chart in its address', async () => {
    const { page, context } = await rig.open(size, '/chart?kind=weather');
    if (size === 'phone') await page.getByRole('button', { name: 'List', exact: true }).click();
    await page.getByRole('button', { name: 'Weather', exact: true, pressed: true }).waitFor();
    await page.getByRole('textbox', { name: 'Search', exact: true }).fill('Skerra');
    await page.waitForURL(/text=Skerra/);
    await page.getByRole('link', { name: 'Log', exact: true }).click();
    await page.getByRole('heading', { name: 'Log', level: 1 }).waitFor();
    await page.goBack();
    await page.waitForFunction(
      () => (document.querySelector('input[aria-label="Search"]') as HTMLInputElement | null)?.value === 'Skerra',
    );
    await context.close();
  }, 120_000);
});
