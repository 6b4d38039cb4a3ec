import type { Page } from 'playwright-core';
import { accessibilityFaults, settled, tooSmall, words } from './testing/checker';
import { rowsBelow } from './testing/glossary';
import { startRig, type Rig, type Size } from './testing/rig';

let rig: Rig;
beforeAll(async () => {
  rig = await startRig();
}, 150_000);
afterAll(() => rig.stop(), 60_000);

type Name = string | RegExp;
const press = (page: Page, name: Name) =>
  page
    .getByRole('button', typeof name === 'string' ? { name, exact: true } : { name })
    .first()
    .click();
const follow = (page: Page, selector: string) => page.locator(selector).first().click();

const inTheMesh = (page: Page) =>
  page
    .getByRole('link', { name: /^Open nodes and channels/ })
    .first()
    .click();

/** What opens in the places: how to get there, and what is there then. */
const OPENED: readonly {
  readonly name: string;
  readonly path: string;
  open(page: Page, size: Size): Promise<void>;
  readonly shows: Name;
}[] = [
  { name: 'the search in Traffic', path: '/traffic', open: (page) => press(page, 'Search: Traffic'), shows: 'Search' },
  {
    name: 'an item',
    path: '/traffic',
    open: (page) => follow(page, 'a[href^="/traffic/"]'),
    shows: 'What proves it',
  },
  {
    name: 'a packet',
    path: '/log?tab=heard',
    open: (page) => follow(page, 'a[href^="/packet/"]'),
    shows: 'Field by field',
  },
  {
    name: 'the filters of the log',
    path: '/log?tab=heard',
    open: (page) => press(page, 'More filters'),
    shows: 'Kind',
  },
  {
    name: 'the filters of the chart',
    path: '/chart',
    async open(page, size) {
      if (size === 'phone') await press(page, 'List');
      await press(page, 'Filters');
    },
    shows: 'Within',
  },
  { name: 'a watch', path: '/chart/weather', open: (page) => press(page, /^Watch it/), shows: 'Raise an alarm then' },
  {
    name: 'a text with its precedence',
    path: '/write',
    open: (page) => press(page, /^Routine: set precedence/),
    shows: 'Precedence',
  },
  { name: 'a text into the mesh', path: '/write', open: (page) => press(page, 'Mesh'), shows: 'Channel' },
  { name: 'a message on a board', path: '/write', open: (page) => press(page, 'Board'), shows: 'Subject' },
  { name: 'a mail', path: '/write', open: (page) => press(page, 'Mail'), shows: 'Subject' },
  { name: 'a new bearer', path: '/bearers', open: (page) => press(page, 'Add a bearer'), shows: 'TCP port' },
  {
    name: 'the mesh from inside',
    path: '/bearers',
    open: inTheMesh,
    shows: 'Make a private channel',
  },
  {
    name: 'the setting of the node',
    path: '/bearers',
    async open(page) {
      await inTheMesh(page);
      await press(page, 'Change how the node is set');
    },
    shows: 'Set the node',
  },
  { name: 'a person', path: '/tools/people', open: (page) => press(page, /^Change: /), shows: 'Name' },
  {
    name: 'settings that do not fit',
    path: '/tools/settings',
    async open(page) {
      await page.getByRole('textbox', { name: 'Tries in all', exact: true }).fill('900');
      await page.getByRole('textbox', { name: 'Call sign', exact: true }).fill('NOPE');
      await press(page, 'Save settings');
    },
    shows: /^Not saved/,
  },
  {
    name: 'a piece of equipment with a fault in it, and its sheet',
    path: '/tools/equipment',
    async open(page) {
      await press(page, 'Add a piece');
      await page.getByRole('radio', { name: 'Radio', exact: true }).click();
      await press(page, 'Add it');
      await page.getByText('something is missing here').first().waitFor();
      await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Hand-held');
      await page.getByRole('checkbox', { name: 'A packet modem is inside', exact: true }).click();
      await press(page, 'Add it');
      await page
        .getByRole('link', { name: /^Set-up sheet/ })
        .first()
        .click();
      await press(page, 'For somebody with the same set');
    },
    shows: 'Transmit delay',
  },
  {
    name: 'a question of the ready check',
    path: '/tools/ready?symptom=wrong-place',
    open: (page) => press(page, 'Add a cause'),
    shows: /^It takes about/,
  },
  {
    name: 'a position that is typed, and where it comes from',
    path: '/tools/position',
    async open(page) {
      await page.getByRole('textbox', { name: 'Another position', exact: true }).fill('41 16.2N 43 17.1W');
      await press(page, 'Change where it comes from');
      await page.getByRole('radio', { name: 'A receiver on a serial line', exact: true }).click();
    },
    shows: /^By its digits/,
  },
  {
    name: 'a beacon for a test bench',
    path: '/tools/beacon',
    async open(page) {
      await page.getByRole('radio', { name: 'After so much time', exact: true }).click();
      await page.getByRole('textbox', { name: 'Every, min', exact: true }).fill('0.5');
    },
    shows: /is for a test bench/,
  },
  {
    // Done by a worker, which only a browser starts.
    name: 'a beacon compared on a track from a file',
    path: '/tools/beacon',
    open: (page) =>
      page.getByLabel('Track file').setInputFiles({ name: 'walk.gpx', mimeType: 'application/gpx+xml', buffer: WALK }),
    shows: /^From above, north at the top/,
  },
  { name: 'the keys', path: '/traffic', open: (page) => page.keyboard.press('?'), shows: 'Keys' },
];

/** An hour to the east, a point a minute. */
const WALK = Buffer.from(
  `<gpx><trk><trkseg>${Array.from(
    { length: 60 },
    (_, n) =>
      `<trkpt lat="41.2" lon="${(-43.4 + 0.002 * n).toFixed(4)}"><time>${new Date(Date.UTC(2026, 10, 25, 8, n)).toISOString()}</time></trkpt>`,
  ).join('')}</trkseg></trk></gpx>`,
);

const shown = (page: Page, name: Name) =>
  page
    .getByText(name, typeof name === 'string' ? { exact: true } : {})
    .or(page.getByRole('textbox', { name }))
    .filter({ visible: true })
    .first()
    .waitFor();

const NOT_SHOWN = [...rowsBelow('Not said'), ...rowsBelow('Not shown')]
  .flatMap(([phrases]) => phrases.split(', '))
  .map((phrase) => ({
    phrase,
    at: new RegExp(
      `(?<![\\p{L}\\d-])${phrase.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?![\\p{L}\\d-])`,
      /[A-Z]/.test(phrase) ? 'u' : 'iu',
    ),
  }));

it('finds a word wherever it stands by itself, and not within another', () => {
  const found = (line: string) => NOT_SHOWN.filter(({ at }) => at.test(line)).map(({ phrase }) => phrase);
  expect(found('Try 2 of the Leg: NaN s')).toEqual(['leg', 'NaN']);
  expect(found('legal, null-modem, a delegate')).toEqual([]);
});

describe.each(['phone', 'wide'] as const)('what opens in the places of a %s screen', (size: Size) => {
  it('passes the accessibility checker in all lights, and says nothing of the inside of the program', async () => {
    const { page, context } = await rig.open(size, '/traffic', { light: 'day' });
    const faults: string[] = [];
    for (const { name, path, open, shows } of OPENED) {
      await page.goto(rig.started.url + path);
      await settled(page);
      const opened = await open(page, size)
        .then(() => shown(page, shows))
        .then(
          () => true,
          (error: Error) => faults.push(`${name}: ${error.message.split('\n')[0]}`) && false,
        );
      if (!opened) continue;
      await settled(page);
      faults.push(...(await accessibilityFaults(page)).map((violation) => `${name}: ${violation}`));
      if (size === 'phone') faults.push(...(await tooSmall(page)).map((small) => `${name}: ${small}`));
      for (const line of await words(page))
        for (const { phrase, at } of NOT_SHOWN)
          if (at.test(line)) faults.push(`${name}: says “${phrase}” in “${line.slice(0, 120)}”`);
    }
    expect(faults).toEqual([]);
    await context.close();
  }, 300_000);
});

describe.each(['phone', 'wide'] as const)('on paper, from a %s screen', (size: Size) => {
  it('stands what was opened, whole and with its times, and nothing that can only be pressed', async () => {
    const { page, context } = await rig.open(size, '/traffic');
    await follow(page, 'a[href^="/traffic/"]');
    await page.getByText('What proves it').waitFor();
    await page.emulateMedia({ media: 'print' });
    const evidence = page.getByRole('list', { name: 'Evidence' });
    expect(await evidence.isVisible()).toBe(true);
    expect(await page.locator('[data-paper="yes"]:visible').count()).toBeGreaterThan(1);
    expect(await page.locator('[role="navigation"]:visible, [role="button"]:visible:not([data-paper])').count()).toBe(
      0,
    );
    // Of the list beside it nothing is left.
    expect(await page.getByRole('heading', { name: 'Needs you' }).locator('visible=true').count()).toBe(0);
    // Nothing is cut off where the screen would have scrolled.
    const cut = await evidence.evaluate(
      (list) => list.getBoundingClientRect().bottom + scrollY - document.documentElement.scrollHeight,
    );
    expect(cut).toBeLessThanOrEqual(0);
    await context.close();
  }, 120_000);
});
