import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { startRig, until, type Rig, type Size } from './testing/rig';

let rig: Rig;
beforeAll(async () => {
  rig = await startRig();
}, 150_000);
afterAll(() => rig.stop(), 60_000);

const SIZES: readonly Size[] = ['phone', 'wide'];

async function write(page: Page, to: string, text: string): Promise<void> {
  await page.getByRole('link', { name: 'Write', exact: true }).click();
  await page.getByRole('textbox', { name: 'To', exact: true }).fill(to);
  await page.getByRole('textbox', { name: 'Text', exact: true }).fill(text);
  await page.getByRole('button', { name: /^Send by 144\.390 .*ask for acknowledgement(, up to \d+ times)?$/ }).click();
  await page.getByRole('heading', { name: `To ${to}`, level: 1 }).waitFor();
}

const statusHeading = (page: Page, words: RegExp, timeout = 40_000) =>
  page.getByRole('heading', { name: words }).first().waitFor({ timeout });

/** The large picture of the item that is open; a wide screen shows the small ones of the list beside it. */
const causewayWords = (page: Page, call: string) =>
  page
    .getByRole('img', { name: new RegExp(`to ${call}:`) })
    .last()
    .getAttribute('aria-label');

describe('a new user', () => {
  it('finds the transmitter locked, answers the two questions, and sees what a text costs', async () => {
    const { page, context } = await rig.open('phone', '/');
    await page.getByRole('heading', { name: 'Needs you' }).waitFor();
    await page.getByRole('link', { name: 'Write', exact: true }).click();
    await page.getByRole('textbox', { name: 'To', exact: true }).fill('qt4lb-8');
    const text = page.getByRole('textbox', { name: 'Text', exact: true });
    await text.fill('N'.repeat(68));
    await page.getByText('68 of 67 characters: shorten the text').waitFor();
    await text.fill('Fuel low');
    await page
      .getByText(/^8 of 67 characters · 0\.\d\d s on the air, \d\.\d s of the channel if one repeats it at each hop/)
      .waitFor();
    const send = page.getByRole('button', { name: /^Send by 144\.390/ });
    expect(await send.isDisabled()).toBe(true);
    await page.getByRole('checkbox', { name: /I hold a licence/ }).click();
    await page.getByRole('checkbox', { name: /An antenna is connected/ }).click();
    // What came meanwhile may wait to be acknowledged: it is shown before it goes.
    await page
      .getByRole('button', { name: /^Unlock and send/ })
      .or(send.and(page.locator(':not([aria-disabled="true"])')))
      .first()
      .waitFor();
    const unlock = page.getByRole('button', { name: /^Unlock and send/ });
    if (await unlock.isVisible()) await unlock.click();
    await page.waitForFunction(
      () => document.querySelector('[aria-label^="Send by"]')?.getAttribute('aria-disabled') !== 'true',
    );
    await page.getByRole('radio', { name: 'No digipeater' }).click();
    await page.getByRole('button', { name: /^Send by 144\.390 MHz direct, without a digipeater/ }).waitFor();
    await context.close();
    // Short waits between tries, so that the tests need not wait as an operator would.
    await rig.api('/settings', {
      method: 'PATCH',
      body: { retry: { firstS: 3, factor: 1.5, capS: 8, tries: 6, jitter: 0.2 } },
    });
  }, 120_000);
});

describe.each(SIZES)('on a %s screen', (size) => {
  it('sends to the lifeboat and follows it over two digipeaters to the proof', async () => {
    const { page, context } = await rig.open(size, '/');
    await write(page, 'QT4LB-8', `Fuel low, ${size}`);
    await statusHeading(page, /^(delivered: acknowledged in the name of QT4LB-8|answered by QT4LB-8)$/);
    const road = await causewayWords(page, 'QT4LB-8');
    expect(road).toMatch(
      /^QT2AR-7 to QT0BR-1: acknowledged.*QT0BR-1 to QT0TH-3: acknowledged.*QT0TH-3 to QT4LB-8: acknowledged/,
    );
    await page.getByRole('link', { name: 'Open the packet: QT4LB-8 acknowledged' }).first().click();
    // An acknowledgement by itself, or the one that rides on an answer where the first was lost.
    await page
      .getByText(/^(Acknowledges number \w\w to QT2AR-7|To QT2AR-7: Lifeboat here.*)$/)
      .first()
      .waitFor();
    await page.getByText('QT2AR-7, padded to nine characters').waitFor();
    await context.close();
  }, 90_000);

  it('says honestly that the clinic relayed but did not acknowledge, and tries again', async () => {
    await rig.api('/settings', {
      method: 'PATCH',
      body: { retry: { firstS: 3, factor: 1, capS: 3, tries: 2, jitter: 0 } },
    });
    const { page, context } = await rig.open(size, '/');
    await write(page, 'QT6CL', `Boat comes, ${size}`);
    await statusHeading(page, /^relayed by .*QT0BR-1.*, not acknowledged; tries used up$/);
    // Where no second digipeater was heard with it, its hop stands there by the path alone.
    expect(await causewayWords(page, 'QT6CL')).toMatch(
      /to QT6CL: no proof, given up$|QT0BR-1 to WIDE2-1: no proof, given up; WIDE2-1 to QT6CL: nothing heard of it$/,
    );
    await page.getByRole('button', { name: 'Try again' }).click();
    await statusHeading(page, /not acknowledged yet$/);
    await page.getByText('Try 3').or(page.getByText('Put in the queue')).first().waitFor();
    await context.close();
    await rig.api('/settings', {
      method: 'PATCH',
      body: { retry: { firstS: 3, factor: 1.5, capS: 8, tries: 6, jitter: 0.2 } },
    });
  }, 90_000);

  it('says where it is when somebody presses for it, and shows who repeated that', async () => {
    const { page, context } = await rig.open(size, '/tools');
    await page.getByRole('link', { name: 'Position', exact: true }).click();
    await page.getByRole('heading', { name: 'Say where we are' }).waitFor();
    await page.getByRole('textbox', { name: 'Comment', exact: true }).fill(`Skerra school, ${size}`);
    await page.getByText(new RegExp(`Skerra school, ${size}$`)).waitFor();
    await page
      .getByText(/In its reach: about \d+ of \d+ stations known here\./)
      .first()
      .waitFor();
    await page.getByRole('radio', { name: 'WIDE1-1,WIDE2-1', exact: true }).click();
    const repeated = page
      .getByRole('list', { name: 'Positions sent' })
      .getByText(/^Sent; heard repeated by .*QT0BR-1/)
      .first();
    const seen = (timeout: number) =>
      repeated.waitFor({ timeout }).then(
        () => true,
        () => false,
      );
    // It goes out once, and on a shared channel a repeat may be lost to another: whoever sees none presses again.
    for (let presses = 0; presses < 4; presses++) {
      await page.getByRole('button', { name: /^Send our position by 144\.390 MHz, over WIDE1-1,WIDE2-1/ }).click();
      if (await seen(25_000)) break;
    }
    await repeated.waitFor();
    await context.close();
  }, 150_000);

  it('loses nothing when the station is killed during a send', async () => {
    const { page, context } = await rig.open(size, '/');
    const text = `Killed once, ${size}`;
    await write(page, 'QT4LB-8', text);
    const killed = rig.started.pidOf('station.mjs')!;
    process.kill(killed, 'SIGKILL');
    await until(() => {
      const pid = rig.started.pidOf('station.mjs');
      return pid !== undefined && pid !== killed;
    });
    // The proof may have come before the kill: the page shows it while the station is still starting.
    await until(() => rig.answers());
    await statusHeading(page, /^(delivered: acknowledged in the name of QT4LB-8|answered by QT4LB-8)$/, 60_000);
    const { rows } = await rig.api(`/items?text=${encodeURIComponent(text)}`);
    expect(rows).toHaveLength(1);
    const item = await rig.api(`/items/${rows[0].id}`);
    const tries = item.evidence.filter(
      (record: { kind: string }) => record.kind === 'sent' || record.kind === 'interrupted',
    );
    expect(new Set(tries.map((record: { attempt: number }) => record.attempt)).size).toBe(tries.length);
    await context.close();
  }, 120_000);

  it('reads a recording, tells what was not understood, and saves a capture that the network analyser opens', async () => {
    const { page, context } = await rig.open(size, '/log?tab=recordings');
    const at = `2026-01-0${SIZES.indexOf(size) + 1}T10:00:0`;
    const lines = [
      `${at}0Z QT9${size === 'phone' ? 'PH' : 'WD'}>APRS,QT0BR-1*::QT1NC    :<b>Bold</b>{1`,
      `${at}1Z QT9${size === 'phone' ? 'PH' : 'WD'}>APRS,QT0BR-1,QT0TH-3*::QT1NC    :<b>Bold</b>{1`,
      `${at}2Z QT9${size === 'phone' ? 'PH' : 'WD'}>APRS:!4114.55N/04327.36W-Home`,
      `${at}3Z this is no packet`,
      `${at}4Z QT9ZZ>APRS:!9999.99N/04327.36W-`,
    ];
    const name = `heard-${size}.txt`;
    await page
      .locator('input[type=file]')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(lines.join('\n')) });
    await page.getByRole('button', { name: 'Read it' }).click();
    await page.getByText('3 understood, 2 not understood; 3 packets after copies were joined').first().waitFor();
    await page.getByRole('button', { name: `Show what was not understood: ${name}` }).click();
    await page.getByText(/99\.99 minutes \(octet 3\)/).waitFor();
    await page.getByRole('button', { name: `Show its packets: ${name}` }).click();
    // A text from the air is shown as text, never run as a page.
    await page.getByText('To QT1NC: <b>Bold</b>').first().waitFor();
    await page.getByText('heard via QT0BR-1, and 1 more copy').waitFor();

    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as capture file' }).click();
    const file = await (await download).path();
    const fields = execFileSync(
      'tshark',
      ['-r', file, '-T', 'fields', '-e', 'frame.time_epoch', '-e', 'ax25.pid', '-e', '_ws.col.Protocol'],
      { encoding: 'utf8' },
    );
    const rows = fields.trim().split('\n');
    expect(rows).toHaveLength(4);
    expect(Number(rows[0]!.split('\t')[0]) * 1000).toBe(Date.parse(`${at}0Z`));
    const verbose = execFileSync('tshark', ['-r', file, '-V'], { encoding: 'utf8' });
    expect(verbose).toContain(`QT9${size === 'phone' ? 'PH' : 'WD'}`);
    expect(readFileSync(file).length).toBeGreaterThan(200);
    await context.close();
  }, 120_000);

  it('shows a text to us the moment it arrives, and answers it', async () => {
    const { page, context } = await rig.open(size, '/traffic');
    const ours = page.getByRole('link', { name: /from QT4LB-8.*Lifeboat here/ }).first();
    await ours.waitFor({ timeout: 60_000 });
    await ours.click();
    await page.getByRole('button', { name: 'Answer QT4LB-8', exact: true }).click();
    await page.getByText('This answers the text you opened.').waitFor();
    expect(await page.getByRole('textbox', { name: 'To', exact: true }).inputValue()).toBe('QT4LB-8');
    await context.close();
  }, 90_000);
});
