import { accessibilityFaults, settled } from './testing/checker';
import { startRig, until, type Rig, type Size } from './testing/rig';

const SIZES: readonly Size[] = ['phone', 'wide'];

describe('the ways to somebody', () => {
  let rig: Rig;
  beforeAll(async () => {
    rig = await startRig();
    await rig.api('/settings', {
      method: 'PATCH',
      body: {
        licenceConfirmed: true,
        antennaConfirmed: true,
        retry: { firstS: 3, factor: 1.5, capS: 8, tries: 8, jitter: 0.2 },
      },
    });
  }, 150_000);
  afterAll(() => rig.stop(), 60_000);

  it.each(SIZES)(
    'are proposed, compared, opened and taken on a %s screen',
    async (size) => {
      const { page, context } = await rig.open(size, '/write');
      await page.getByRole('textbox', { name: 'Whom', exact: true }).fill('Renske');
      await page.getByRole('button', { name: 'For Dr Renske Hallow', exact: true }).click();
      // The clinic has a node and a mailbox: the surest of its ways is set, whichever that is now.
      await page.getByText(/^Proposed and set below: /).waitFor();
      await page.getByRole('textbox', { name: 'Text', exact: true }).fill('Insulin is on its way');
      const ways = page.getByRole('region', { name: 'Ways' });
      await ways.getByText('What you have chosen is what is proposed.').waitFor();
      await ways.getByRole('button', { name: /^What it rests on/ }).click();
      await ways.getByText(/ of 100 is what may be, in nine of ten cases/).waitFor();
      await ways.getByRole('button', { name: /^Compare / }).click();
      await ways.getByText('fails for other reasons').first().waitFor();
      await settled(page);
      expect(await accessibilityFaults(page)).toEqual([]);
      // Nothing of it is wider than the screen.
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
      // Another way for the same text, by keys alone: another part of Write is shown.
      const part = page.getByRole('group', { name: 'Way', exact: true }).locator('[aria-pressed="true"]');
      const before = await part.textContent();
      await ways
        .getByRole('button', { name: /^Take this way/ })
        .last()
        .focus();
      await page.keyboard.press('Enter');
      await until(async () => (await part.textContent()) !== before);
      expect(await page.getByRole('textbox', { name: 'Text', exact: true }).inputValue()).toBe('Insulin is on its way');
      expect(await page.getByRole('textbox', { name: 'Whom', exact: true }).inputValue()).toBe('Dr Renske Hallow');
      await context.close();
    },
    120_000,
  );

  it('are kept as forecasts, which the item shows and Forecasts waits to judge', async () => {
    const { page, context } = await rig.open('phone', '/write');
    await page.getByRole('textbox', { name: 'Whom', exact: true }).fill('QT1NC');
    await page.keyboard.press('Enter');
    // Its path is the proposed one where that has shown that it works, by what was heard so far.
    await page.getByText(/^Proposed(?: and set below)?: Packet radio to QT1NC/).waitFor();
    expect(await page.getByRole('textbox', { name: 'To', exact: true }).inputValue()).toBe('QT1NC');
    await page.getByRole('textbox', { name: 'Text', exact: true }).fill('Who is at the pier?');
    await page.getByRole('button', { name: /^Send by 144\.390 MHz/ }).click();
    await page.getByRole('heading', { name: 'What was expected' }).waitFor();
    await page.getByText(/^When it was queued: of 100 such sendings about \d+ would be proved/).waitFor();
    await page.goto(new URL('/tools/forecasts', page.url()).href);
    // Until an answer could no longer come nothing is judged.
    await page.getByText(/ sendings? (is|are) still open\.$/).waitFor();
    await settled(page);
    expect(await accessibilityFaults(page)).toEqual([]);
    await context.close();
  }, 150_000);

  it.each(SIZES)(
    'go by the hand of somebody who was noted under People, with the name in front, on a %s screen',
    async (size) => {
      const { page, context } = await rig.open(size, '/tools/people');
      await page.getByRole('button', { name: 'Change: Ferry Office', exact: true }).click();
      await page.getByRole('textbox', { name: 'Brought to them by hand, by', exact: true }).fill('Oskar Pellmund 40');
      await page.getByRole('button', { name: 'Save', exact: true }).click();
      await page.getByText('Brought to them by hand, by Oskar Pellmund 40 min', { exact: true }).waitFor();
      await page.getByRole('link', { name: 'Write', exact: true }).click();
      await page.getByRole('textbox', { name: 'Whom', exact: true }).fill('Ferry Office');
      await page.keyboard.press('Enter');
      await page.getByText(/^Proposed and set below: /).waitFor();
      await page.getByRole('textbox', { name: 'Text', exact: true }).fill('The boat waits');
      const ways = page.getByRole('region', { name: 'Ways' });
      const hand = page.getByRole('group', { name: 'By hand', exact: true });
      // The farm has a node alone, which is known once it was heard.
      const taken = ways.getByRole('button', { name: /^Take this way: By hand of Oskar Pellmund/ }).first();
      const compare = ways.getByRole('button', { name: /^Compare / });
      await until(async () => {
        if (await compare.isVisible()) await compare.click();
        return (await taken.isVisible()) || (await hand.isVisible());
      }, 60);
      if (!(await hand.isVisible())) await taken.click();
      await hand.getByText('Ferry Office: The boat waits', { exact: true }).waitFor();
      await settled(page);
      expect(await accessibilityFaults(page)).toEqual([]);
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
      await page.getByRole('button', { name: /^Send by mesh to LSFARM .*, to be brought to Ferry Office/ }).click();
      await page.getByText(/^It is for Ferry Office and goes to LSFARM first/).waitFor({ timeout: 30_000 });
      // Whoever brings it has it: that is all that is proved.
      await page
        .getByRole('heading', { name: /^delivered: acknowledged/ })
        .first()
        .waitFor({ timeout: 60_000 });
      await context.close();
    },
    150_000,
  );
});
