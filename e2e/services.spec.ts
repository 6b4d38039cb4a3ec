import type { ItemDetail } from '@tombolo/contract';
import type { Page } from 'playwright-core';
import { accessibilityFaults, settled } from './testing/checker';
import { startRig, until, type Rig, type Size } from './testing/rig';

const SIZES: readonly Size[] = ['phone', 'wide'];

/** Presses, and counts how often: what is typed does not count. */
function pressing(page: Page) {
  const counted = {
    taps: 0,
    async press(name: string | RegExp) {
      // What comes in between moves the button away from under the finger.
      await page.getByText('Reckoning the ways …').waitFor({ state: 'hidden' });
      await page.getByRole('button', { name, exact: true }).click();
      counted.taps++;
    },
    async enter(field: string, words: string) {
      await page.getByRole('textbox', { name: field, exact: true }).click();
      counted.taps++;
      await page.keyboard.type(words);
    },
  };
  return counted;
}
const item = (page: Page, words: RegExp) =>
  page.getByRole('heading', { name: words }).first().waitFor({ timeout: 60_000 });

describe.each(SIZES)('services behind a gateway, on a %s screen', (size) => {
  let rig: Rig;
  beforeAll(async () => {
    rig = await startRig();
    await rig.api('/settings', {
      method: 'PATCH',
      body: {
        licenceConfirmed: true,
        antennaConfirmed: true,
        retry: { firstS: 3, factor: 1.5, capS: 8, tries: 12, jitter: 0.2 },
      },
    });
  }, 150_000);
  afterAll(() => rig.stop(), 60_000);

  it('bring a text to a phone in four taps besides the text, and its answer to the question', async () => {
    const { page, context } = await rig.open(size, '/write');
    const by = pressing(page);
    await by.press('By a service');
    await by.press('Phone text');
    await by.press('Ferry Office');
    await page.getByRole('textbox', { name: 'Text', exact: true }).fill('When do you run again?');
    await settled(page);
    expect(await accessibilityFaults(page)).toEqual([]);
    await page.getByText('TELTXT: 005550142: When do you run again?', { exact: true }).waitFor();
    await by.press(/^Send by 144\.390 MHz/);
    expect(by.taps).toBeLessThanOrEqual(4);
    await item(page, /^(handed on by TELTXT|answered by 005550142)$/);
    // The answer is told of while another page is open, and leads back to what it answers.
    await page.getByRole('link', { name: 'Chart', exact: true }).click();
    await page
      .getByRole('region', { name: 'News' })
      .getByRole('link', { name: /^From TELTXT: an item needs you\.$|^\d+ more items need you\.$/ })
      .waitFor({ timeout: 60_000 });
    await page.getByRole('link', { name: /^Traffic/ }).click();
    await page
      .getByRole('link', { name: /from TELTXT.*Not before tomorrow 0700Z/ })
      .first()
      .click({ timeout: 60_000 });
    await page.getByText('From Ferry Office, by TELTXT', { exact: true }).waitFor();
    await page.getByRole('link', { name: 'It answers “005550142: When do you run again?”' }).click();
    await item(page, /^answered by 005550142$/);
    // Both stand in one thread, under the name of whom they are with.
    await page.getByRole('link', { name: 'All that passed with 005550142' }).click();
    await page.getByRole('heading', { name: 'With Ferry Office', level: 1 }).waitFor();
    const lines = page.getByRole('link', { name: /When do you run again\?|Not before tomorrow 0700Z/ });
    await page
      .getByRole('link', { name: /^from TELTXT.*Not before tomorrow 0700Z/ })
      .last()
      .waitFor();
    expect(await lines.count()).toBeGreaterThanOrEqual(2);
    await settled(page);
    expect(await accessibilityFaults(page)).toEqual([]);
    await context.close();
  }, 200_000);

  it('send a mail behind our position, and say when it was taken', async () => {
    const { page, context } = await rig.open(size, '/write');
    const by = pressing(page);
    await by.press('By a service');
    await by.press('One-line mail');
    await by.press('Ferry Office');
    await page.getByRole('textbox', { name: 'Text', exact: true }).fill('62 people at the school');
    await by.press('Send our position, then this');
    await item(page, /^handed on by POSTBX$/);
    const { rows } = await rig.api<{ rows: { evidence: { note: string | null; kind: string; at: string }[] }[] }>(
      '/transmissions',
    );
    const report = rows.find(({ evidence }) =>
      evidence.some(({ note }) => note?.includes('before a text that uses it')),
    )!;
    expect(report.evidence.some(({ kind }) => kind === 'sent')).toBe(true);
    await context.close();
  }, 200_000);

  it('let a group be joined with two chips and left with one', async () => {
    const { page, context } = await rig.open(size, '/write');
    const by = pressing(page);
    await by.press('By a service');
    await by.press('Groups');
    await by.press('SOUNDNET');
    await by.press(/^Send by/);
    await item(page, /^handed on by ROLLCL$/);
    await page.getByRole('link', { name: 'Write', exact: true }).click();
    await by.press('By a service');
    await by.press('Leave a group: SOUNDNET');
    await page.getByText('ROLLCL: OUT SOUNDNET', { exact: true }).waitFor();
    // No way is looked for to a name that is nobody's.
    expect(await page.getByRole('region', { name: 'Ways' }).count()).toBe(0);
    await by.press(/^Send by/);
    await item(page, /^handed on by ROLLCL$/);
    await until(async () => (await rig.api<unknown[]>('/services/joined')).length === 0);
    await context.close();
  }, 200_000);

  it('tell what is missing before it is sent, and spot an activity in five taps', async () => {
    const { page, context } = await rig.open(size, '/write');
    const by = pressing(page);
    await by.press('By a service');
    await by.press('District desk');
    await by.enter('Reference of the place', 'hs-014');
    // Enter leads to the next field.
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await page.keyboard.type('ssb');
    const send = page.getByRole('button', { name: /^Send by/ });
    // It answers, although it cannot be sent yet.
    await send.click({ force: true });
    await page.getByText('Frequency, MHz: it is missing.', { exact: true }).waitFor();
    await page.getByRole('textbox', { name: 'Frequency, MHz', exact: true }).fill('7,185');
    await page.getByText('ASKDSK: SPOT AT HS-014 ON 7.185 BY SSB', { exact: true }).waitFor();
    await by.press(/^Send by/);
    expect(by.taps).toBeLessThanOrEqual(5);
    await item(page, /^handed on by ASKDSK$/);
    await context.close();
  }, 200_000);

  it('stand aside where a long text goes to the clinic in parts: it loses one and asks for it', async () => {
    // Slower than the clinic asks: what it asks for is sent because it asks.
    await rig.api('/settings', {
      method: 'PATCH',
      body: { retry: { firstS: 60, factor: 1.5, capS: 90, tries: 4, jitter: 0.1 } },
    });
    const { page, context } = await rig.open(size, '/write');
    const text =
      'Dr Hallow: the lifeboat leaves at 0700 with 40 vials of insulin in two cool boxes, kept below 8 degrees. Please have somebody with a light at the lower steps, and tell us how many people want to cross on the way back.';
    expect(text.length).toBeGreaterThan(200);
    await page.getByRole('textbox', { name: 'To', exact: true }).fill('QT6CL');
    await page.getByRole('textbox', { name: 'Text', exact: true }).fill(text);
    await page.getByText(/of 67 characters: shorten the text or send it in parts/).waitFor();
    await page.getByRole('checkbox', { name: 'Send it as 4 texts' }).click();
    await page.getByRole('list', { name: 'As it goes out' }).getByText('(4/4a)').waitFor();
    await settled(page);
    expect(await accessibilityFaults(page)).toEqual([]);
    await page.getByRole('button', { name: /^Send 4 texts by 144\.390 MHz/ }).click();
    await page.getByRole('heading', { name: 'The whole text' }).waitFor();
    await page.getByText(text, { exact: true }).waitFor();
    await page.getByRole('link', { name: 'Part 2 of 4' }).click();
    await page.getByText('QT6CL asks for this part again').waitFor({ timeout: 90_000 });
    // Asked for before its turn it is only noted: it goes when the asking can be about it, and sooner than by itself.
    const id = /[\da-f-]{36}/.exec(page.url())![0];
    const afterMs = await until(async () => {
      const { evidence } = await rig.api<ItemDetail>(`/items/${id}`);
      const asked = evidence.find(({ kind, note }) => kind === 'asked again' && note === null);
      const tries = evidence.filter(({ kind }) => kind === 'intended').map(({ at }) => Date.parse(at));
      const next = asked ? tries.findIndex((at) => at >= Date.parse(asked.at)) : -1;
      return next > 0 && tries[next]! - tries[next - 1]!;
    }, 90);
    expect(afterMs).toBeLessThan(54_000);
    await page
      .getByText(/^Try [2-9]: sent$/)
      .first()
      .waitFor({ timeout: 30_000 });
    await context.close();
  }, 200_000);

  it('are kept in a directory, which a file carries elsewhere', async () => {
    const { page, context } = await rig.open(size, '/tools/services');
    await page.getByText('TELTXT · behind QT1GW-10', { exact: true }).waitFor();
    const file = {
      format: 'tombolo services',
      version: 1,
      services: [
        {
          address: 'TIDETB',
          name: 'Tide table',
          purpose: 'High water',
          commands: [
            {
              id: 'at',
              title: 'Ask',
              template: 'AT {place}',
              fields: [{ id: 'place', title: 'Place', kind: 'place' }],
            },
          ],
        },
      ],
    };
    const take = (content: object) =>
      page.getByLabel('Services file', { exact: true }).setInputFiles({
        name: 'tide.json',
        mimeType: 'application/json',
        buffer: Buffer.from(JSON.stringify(content)),
      });
    await take({ ...file, services: [{ ...file.services[0], commands: [] }] });
    await page.getByText('services.0.commands: at least one command', { exact: true }).waitFor();
    await take(file);
    await page.getByText('TIDETB', { exact: true }).waitFor();
    await page.getByRole('button', { name: 'Change: Tide table', exact: true }).click();
    await settled(page);
    expect(await accessibilityFaults(page)).toEqual([]);
    await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Tides');
    await page.getByRole('button', { name: 'Save the service', exact: true }).click();
    await page.getByRole('button', { name: 'Change: Tides', exact: true }).waitFor();
    await page.getByRole('button', { name: 'Remove: Tides', exact: true }).click();
    await page.getByRole('button', { name: 'Put back: Tides', exact: true }).click();
    await page.getByRole('button', { name: 'Change: Tides', exact: true }).waitFor();
    await context.close();
  }, 200_000);
});
