import type { Locator, Page } from 'playwright-core';
import { SIZES as PIXELS, startRig, until, type Rig, type Size } from './testing/rig';

const SIZES = Object.keys(PIXELS) as Size[];
/** No place has more stops than this before what is looked for. */
const MOST_STOPS = 150;

/** Goes on by Tab until that has the focus, as somebody without a mouse does. */
async function reach(page: Page, what: Locator): Promise<void> {
  await what.waitFor().catch(async (error: unknown) => {
    const said = await page.locator('body').innerText();
    throw new Error(`${String(error)}\nIn its place is said:\n${said}`, { cause: error });
  });
  const has = () => what.evaluate((element) => element === document.activeElement);
  for (let stop = 0; stop < MOST_STOPS; stop++) {
    if (await has()) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`${String(what)} is not reached by Tab`);
}

async function follow(page: Page, name: string | RegExp, { first = false } = {}): Promise<void> {
  const found = page.getByRole('link', { name, exact: typeof name === 'string' });
  await reach(page, first ? found.first() : found);
  await page.keyboard.press('Enter');
}

async function press(page: Page, name: string | RegExp): Promise<void> {
  const button = page.getByRole('button', { name, exact: typeof name === 'string' });
  await reach(page, button);
  // What is not ready yet says so, and a key on it does nothing.
  await until(async () => (await button.getAttribute('aria-disabled')) !== 'true');
  await page.keyboard.press('Enter');
}

async function type(page: Page, label: string, text: string): Promise<void> {
  await reach(page, page.getByRole('textbox', { name: label, exact: true }));
  await page.keyboard.type(text);
}

let rig: Rig;
beforeAll(async () => {
  rig = await startRig();
}, 150_000);
afterAll(() => rig.stop(), 60_000);

describe.each(SIZES)('with the keyboard alone, on a %s screen', (size) => {
  // As it is found by whoever has answered nothing yet.
  beforeAll(() =>
    rig.api('/settings', { method: 'PATCH', body: { licenceConfirmed: false, antennaConfirmed: false } }),
  );

  it('a text is written and sent, and its proof opened', async () => {
    const { page, context } = await rig.open(size, '/traffic');
    await follow(page, 'Write');
    await type(page, 'To', 'QT4LB-8');
    await type(page, 'Text', `By keys, ${size}`);
    for (const question of [/I hold a licence/, /An antenna is connected/]) {
      const box = page.getByRole('checkbox', { name: question });
      await reach(page, box);
      await page.keyboard.press('Space');
      // Answered; with the last one the questions go. What waits to go out is shown before.
      const unlock = page.getByRole('button', { name: /^Unlock and send/ });
      // In one look: the question goes away when it is answered.
      const answered = () =>
        box.evaluateAll((boxes) => boxes.every((one) => one.getAttribute('aria-checked') === 'true'));
      await until(async () => (await unlock.isVisible()) || (await answered()));
      if (await unlock.isVisible()) {
        await press(page, /^Unlock and send/);
        await unlock.waitFor({ state: 'detached' });
      }
    }
    const path = page.getByRole('radio', { name: 'WIDE1-1,WIDE2-1' });
    await reach(page, path);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowUp');
    await press(page, /^Send by 144\.390 MHz over a fill-in/);
    await page
      .getByRole('heading', { name: /^(delivered: acknowledged in the name of QT4LB-8|answered by QT4LB-8)$/ })
      .last()
      .waitFor({ timeout: 60_000 });
    await follow(page, 'Open the packet: QT4LB-8 acknowledged', { first: true });
    await page.getByRole('heading', { name: 'Packet', level: 1 }).waitFor();
    await context.close();
  }, 150_000);

  it('the chart is filtered, and a station read', async () => {
    const { page, context } = await rig.open(size, '/chart');
    if (size === 'phone') await press(page, 'List');
    await type(page, 'Search', 'QT3TK');
    await page.getByText(/^1 of \d+ stations and objects$/).waitFor();
    await follow(page, /^QT3TK-14/);
    await page.getByRole('heading', { name: 'QT3TK-14', level: 1 }).waitFor();
    await context.close();
  }, 90_000);

  it('a session is held with a board, and ended', async () => {
    const { page, context } = await rig.open(size, '/bearers');
    await follow(page, 'Open sessions: Board Hollinport');
    await press(page, 'Connect and see what is there');
    // Where nothing has happened after a while it is pressed once more, as anybody would.
    const connect = page.getByRole('button', { name: 'Connect and see what is there' });
    const hangUp = page.getByRole('button', { name: 'Hang up', exact: true });
    const begun = await hangUp.waitFor({ timeout: 10_000 }).then(
      () => true,
      () => false,
    );
    if (!begun && (await connect.isVisible())) {
      console.error(`No session after a key on its button: ${await page.locator('body').innerText()}`);
      await press(page, 'Connect and see what is there');
    }
    await press(page, 'Hang up');
    await page.getByText(/^Last session /).waitFor({ timeout: 60_000 });
    await context.close();
  }, 120_000);

  it('a recording is chosen and read', async () => {
    const { page, context } = await rig.open(size, '/log?tab=recordings');
    const chosen = page.waitForEvent('filechooser');
    await press(page, 'Choose a file');
    const name = `keys-${size}.txt`;
    await (await chosen).setFiles({ name, mimeType: 'text/plain', buffer: Buffer.from('QT1NC>APRS:>By keys') });
    await press(page, 'Read it');
    await page.getByText(name).first().waitFor();
    await context.close();
  }, 90_000);
});
