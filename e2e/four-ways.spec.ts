import type { Page } from 'playwright-core';
import { startBothSizes, type BothSizes } from './testing/both-sizes';

/** Opens a bearer from inside, by its card. */
async function openBearer(page: Page, link: string): Promise<void> {
  await page.getByRole('link', { name: 'Bearers', exact: true }).click();
  await page.getByRole('link', { name: link }).click();
}

/** A session from the button to its end; gives what was said. */
async function session(page: Page, button: string | RegExp): Promise<void> {
  await page.getByRole('button', { name: button }).click();
  await page.getByRole('button', { name: 'Hang up' }).waitFor();
  await page.getByRole('button', { name: 'Hang up' }).waitFor({ state: 'hidden', timeout: 120_000 });
  expect(await page.getByText(/^Last session /).textContent()).toMatch(/: done$/);
}

describe('four ways across, on a phone and on a wide screen', () => {
  let sizes: BothSizes;
  beforeAll(async () => {
    sizes = await startBothSizes(
      {},
      {
        licenceConfirmed: true,
        antennaConfirmed: true,
        retry: { firstS: 3, factor: 1.5, capS: 8, tries: 12, jitter: 0.2 },
      },
    );
  }, 200_000);
  afterAll(() => sizes.stop(), 60_000);

  it(
    'carries the farm’s question over mesh and radio to a phone, and the answer back',
    () =>
      sizes.walk(async (rig, size) => {
        const { page, context } = await rig.open(size, '/traffic');
        await page
          .getByRole('link', { name: /from LSFARM.*Ferry Office: When do you run again/ })
          .first()
          .click({ timeout: 60_000 });
        await page.getByRole('heading', { name: 'From LSFARM', level: 1 }).waitFor();
        await page.getByRole('button', { name: 'Hand it on …' }).click();
        await page.getByRole('button', { name: 'Text the phone of Ferry Office by TELTXT' }).click();
        await page.getByText('The sender holds no licence.', { exact: false }).waitFor();
        await page.getByRole('button', { name: /^Release it and text the phone of Ferry Office/ }).click();
        await page
          .getByRole('heading', { name: /^(handed on by TELTXT|answered by 005550142)$/ })
          .first()
          .waitFor({ timeout: 60_000 });
        await page.getByText('Passed to Ferry Office by TELTXT').waitFor();
        await page.getByText('Received from LSFARM').waitFor();

        // The phone answers; the answer goes back along the recorded road.
        await page.getByRole('link', { name: 'Traffic', exact: true }).click();
        await page
          .getByRole('link', { name: /from TELTXT.*Not before tomorrow 0700Z/ })
          .first()
          .click({ timeout: 60_000 });
        await page.getByRole('heading', { name: 'From TELTXT', level: 1 }).waitFor();
        await page.getByRole('button', { name: 'Hand it on …' }).click();
        await page.getByRole('button', { name: 'Answer back to node LSFARM, by mesh' }).click();
        await page
          .getByRole('button', { name: /answer back to node LSFARM, by mesh$/i })
          .last()
          .click();
        await page
          .getByRole('heading', { name: 'delivered: acknowledged in the name of LSFARM' })
          .first()
          .waitFor({ timeout: 60_000 });

        // Back at the question: every hop on one causeway, each with its proof.
        await page.getByRole('link', { name: 'Traffic', exact: true }).click();
        await page
          .getByRole('link', { name: /from LSFARM.*Ferry Office/ })
          .first()
          .click();
        await page.getByRole('heading', { name: 'answered by 005550142' }).first().waitFor();
        const road = await page
          .getByRole('img', { name: /^LSFARM to / })
          .last()
          .getAttribute('aria-label');
        expect(road).toMatch(
          /^LSFARM to a node of the mesh: accepted; (a node of the mesh to a node of the mesh: accepted; )*a node of the mesh to SKSCHL: accepted;.* to TELTXT: acknowledged from beyond; TELTXT to Ferry Office: acknowledged from beyond$/,
        );
        await context.close();
      }),
    240_000,
  );

  it(
    'writes over the mesh with its octets, its air time and what is left of the hour',
    () =>
      sizes.walk(async (rig, size) => {
        const { page, context } = await rig.open(size, '/write');
        await page.getByRole('button', { name: 'Mesh', exact: true }).click();
        await page.getByRole('radio', { name: 'Sound', exact: true }).click();
        await page.getByRole('radio', { name: 'Everybody on the channel', exact: true }).click();
        await page.getByRole('textbox', { name: 'Text', exact: true }).fill('Tea at the school from noon');
        const hint = page.getByText(/^27 of 231 octets · 51 on the air · 0\.35 s, .* s of the hour left$/);
        const leftS = Number(/([\d.]+) s of the hour left/.exec((await hint.textContent())!)![1]);
        expect(leftS).toBeGreaterThan(5);
        expect(leftS).toBeLessThanOrEqual(36);
        await page.getByRole('radio', { name: 'Sound Relief', exact: true }).click();
        await page.getByText(/^27 of 203 octets · 79 on the air, sealed · 0\.47 s/).waitFor();
        await page.getByRole('radio', { name: 'Sound', exact: true }).click();
        await page.getByRole('button', { name: 'Send by mesh to everybody on Sound' }).click();
        // A text to everybody goes out once: whether its repeat is heard is up to the air.
        await page
          .getByRole('heading', { name: /^(relayed by a node of the mesh|sent, nothing heard yet)$/ })
          .first()
          .waitFor({ timeout: 60_000 });

        await openBearer(page, 'Open nodes and channels: Mesh 868 MHz');
        const hour = page.getByText(
          /^[\d.]+ s on the air in the last hour, [\d.]+ of 36\.0 s left in 868\.0–868\.6 MHz$/,
        );
        const nowLeftS = Number(/, ([\d.]+) of/.exec((await hour.textContent())!)![1]);
        expect(nowLeftS).toBeLessThanOrEqual(leftS - 0.3);
        await page.getByText('01D1-0003', { exact: false }).first().waitFor();
        await context.close();
      }),
    120_000,
  );

  it(
    'leaves a bulletin at the board and reads one',
    () =>
      sizes.walk(async (rig, size) => {
        const { page, context } = await rig.open(size, '/write');
        await page.getByRole('button', { name: 'Board', exact: true }).click();
        await page.getByRole('radio', { name: 'Bulletin for all' }).click();
        await page.getByRole('textbox', { name: 'To', exact: true }).fill('NEWS@SOUND');
        await page.getByRole('textbox', { name: 'Subject', exact: true }).fill(`Water at the school, ${size}`);
        await page
          .getByRole('textbox', { name: 'Text', exact: true })
          .fill('The well is clean.\n-\nBring your own cans.');
        await page.getByRole('button', { name: /^Put in the queue for QT1BB-4/ }).click();
        await page.getByRole('heading', { name: 'waiting to be sent' }).first().waitFor();

        await openBearer(page, 'Open sessions: Board Hollinport');
        await session(page, 'Connect and see what is there');
        await page.getByRole('checkbox', { name: 'Take no. 11' }).click();
        await session(page, /^Connect and take 1, about/);
        await page.getByRole('link', { name: 'Taken: open “Tides until Thursday”' }).click();
        await page
          .getByText('The Oxbar causeway stays closed two hours either side.', { exact: false })
          .last()
          .waitFor();
        // The private one was taken by itself.
        await page.getByRole('link', { name: 'Traffic', exact: true }).click();
        await page
          .getByRole('link', { name: /from QT1NC.*Shelter list/ })
          .first()
          .waitFor();
        await page
          .getByRole('link', { name: new RegExp(`Water at the school, ${size}`) })
          .first()
          .click();
        await page
          .getByText(/QT1BB-4 took it as number \d+, key/)
          .first()
          .waitFor();
        await context.close();
      }),
    300_000,
  );

  it(
    'sends a mail with an attachment through the gateway and fetches the reply',
    () =>
      sizes.walk(async (rig, size) => {
        const { page, context } = await rig.open(size, '/write');
        await page.getByRole('button', { name: 'Mail', exact: true }).click();
        await page.getByRole('textbox', { name: 'To', exact: true }).fill('office@ferry.example');
        await page.getByRole('textbox', { name: 'Subject', exact: true }).fill('List of people');
        await page
          .getByRole('textbox', { name: 'Text', exact: true })
          .fill('62 people at the school.\n.\nThe list is attached.');
        const file = page.locator('input[type=file]');
        await file.setInputFiles({
          name: 'film.bin',
          mimeType: 'application/octet-stream',
          buffer: Buffer.alloc(2_000_000),
        });
        await page.getByText(/“film.bin” would make it .* kB and hold the channel for about \d+ min/).waitFor();
        await file.setInputFiles({ name: 'list.csv', mimeType: 'text/csv', buffer: Buffer.from('name,age\nA,1\n') });
        await page.getByText('list.csv, 13 octets').waitFor();
        await page.getByRole('button', { name: /^Put in the queue for QT1RM-12/ }).click();
        await page.getByRole('heading', { name: 'waiting to be sent' }).first().waitFor();

        await openBearer(page, 'Open sessions: Radio mail Hollinport');
        await session(page, 'Connect and see what is there');
        const reply = page.getByRole('listitem').filter({ hasText: 'Re: List of people' });
        // The office answers after a minute of the simulated time: look again until it is there.
        for (let looks = 0; looks < 6 && (await reply.count()) === 0; looks++)
          await session(page, 'Connect and see what is there');
        await reply.getByRole('checkbox', { name: /^Take no\./ }).click();
        await session(page, /^Connect and take 1, about/);
        await page.getByRole('link', { name: 'Taken: open “Re: List of people”' }).click();
        await page.getByText('Please have the list of people at the pier.', { exact: false }).last().waitFor();
        await page.getByRole('link', { name: 'Traffic', exact: true }).click();
        await page
          .getByRole('link', { name: /to office@ferry.example.*List of people/ })
          .first()
          .click();
        await page.getByRole('heading', { name: 'answered by office@ferry.example' }).first().waitFor();
        await page
          .getByText(/the gateway took it, queue number Q\d+/)
          .first()
          .waitFor();
        await page.getByRole('button', { name: 'Save list.csv, 13 octets' }).waitFor();
        await context.close();
      }),
    300_000,
  );
});
