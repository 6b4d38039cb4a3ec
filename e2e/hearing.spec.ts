import { execFileSync } from 'node:child_process';
import type { PacketSummary } from '@tombolo/contract';
import type { Page } from 'playwright-core';
import { startRig, until, type Rig, type Size } from './testing/rig';
import { tileArchive } from './testing/tile-archive';
import { vectorTile } from './testing/vector-tile';

const SIZES: readonly Size[] = ['phone', 'wide'];

/** Waits until the stations are drawn, by the browser's own performance entries. */
const drawn = (page: Page) =>
  page.waitForFunction(() => performance.getEntriesByName('stations painted').length > 0, null, { timeout: 30_000 });

/** On a phone the list stands in place of the map. */
async function showList(page: Page, size: Size): Promise<void> {
  if (size === 'phone') await page.getByRole('button', { name: 'List', exact: true }).click();
}

/** Mean colours of squares of 12 pixels, one above the other, of what the browser shows: one picture for all. */
async function coloursOf(page: Page, x: number, y: number, squares: number): Promise<number[][]> {
  const clip = { x, y, width: 12, height: 12 * squares };
  const picture = (await page.screenshot({ clip })).toString('base64');
  return page.evaluate(
    async ([base64, count]) => {
      const octets = Uint8Array.from(atob(base64), (char) => char.charCodeAt(0));
      const image = await createImageBitmap(new Blob([octets], { type: 'image/png' }));
      const canvas = document.createElement('canvas');
      canvas.width = image.width;
      canvas.height = image.height;
      const context = canvas.getContext('2d')!;
      context.drawImage(image, 0, 0);
      const side = image.height / count;
      return Array.from({ length: count }, (_, square) => {
        const { data } = context.getImageData(0, square * side, image.width, side);
        return [0, 1, 2].map((k) => {
          let sum = 0;
          for (let i = k; i < data.length; i += 4) sum += data[i]!;
          return sum / (data.length / 4);
        });
      });
    },
    [picture, squares] as const,
  );
}

describe.each(SIZES)('hear and understand everything, on a %s screen', (size) => {
  let rig: Rig;
  beforeAll(async () => {
    rig = await startRig();
  }, 150_000);
  afterAll(() => rig.stop(), 60_000);

  it('shows the district, and tells in words how the truck was heard', async () => {
    const { page, context } = await rig.open(size, '/chart');
    await page.getByRole('heading', { name: 'Chart', level: 1 }).waitFor();
    await drawn(page);
    // Only the truck is left, so that it stands in the middle: it is tapped there.
    await showList(page, size);
    await page.getByRole('textbox', { name: 'Search', exact: true }).fill('QT3TK');
    await page.getByText(/^1 of \d+ stations and objects$/).waitFor();
    if (size === 'phone') await page.getByRole('button', { name: 'Map', exact: true }).click();
    const map = page.getByRole('application', { name: /^Map of stations/ });
    const box = (await map.boundingBox())!;
    // Where "show all" leaves room: more at the right, for the tools.
    const [x, y] = [box.x + (box.width - 28) / 2, box.y + box.height / 2];
    const about =
      size === 'phone'
        ? page.getByRole('link', { name: 'All about it' })
        : page.getByRole('heading', { name: 'QT3TK-14', level: 1 });
    // The truck is under way, and the map draws what the list shows a moment later: tapped until it was hit.
    await until(async () => {
      await page.getByRole('button', { name: 'Show all', exact: true }).click();
      await page.mouse.click(x, y);
      return about.waitFor({ timeout: 2_000 }).then(
        () => true,
        () => false,
      );
    });
    if (size === 'phone') await about.click();
    await page.getByRole('heading', { name: 'QT3TK-14', level: 1 }).waitFor();
    await page.getByRole('heading', { name: 'How it was heard' }).waitFor();
    await page
      .getByText(/^heard via QT0|^heard direct/)
      .first()
      .waitFor();
    await page
      .getByText(/The transmission that reached QT2AR-7 was that of QT0|No element of the path is marked/)
      .first()
      .waitFor();
    await page
      .getByText(/km WSW/)
      .first()
      .waitFor();
    await context.close();
  }, 90_000);

  it('saves the truck’s trail, and another program opens it', async () => {
    const { page, context } = await rig.open(size, '/chart/station?call=QT3TK-14');
    const save = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as GPX: place and trail of QT3TK-14' }).click();
    const file = await (await save).path();
    // A general converter of map files reads the trail: source gpsbabel of Debian's packages.
    const rows = execFileSync('gpsbabel', ['-t', '-i', 'gpx', '-f', file, '-o', 'unicsv,utc=0', '-F', '-'], {
      encoding: 'utf8',
    });
    const trail = rows.trim().split('\n').slice(1);
    expect(trail.length).toBeGreaterThan(20);
    for (const point of trail) {
      const [, latitude, longitude] = point.split(',').map(Number);
      expect(Math.abs(latitude! - 41.215)).toBeLessThan(0.05);
      expect(Math.abs(longitude! + 43.42)).toBeLessThan(0.06);
    }
    await context.close();
  }, 120_000);

  it('filters to weather, shows the trend at Veil, and raises an alarm that cannot be overlooked', async () => {
    const { page, context } = await rig.open(size, '/chart');
    await page.getByRole('heading', { name: 'Chart', level: 1 }).waitFor();
    await showList(page, size);
    await page.getByRole('button', { name: 'Weather', exact: true }).click();
    await page.getByRole('link', { name: /^QT5WX-13/ }).waitFor();
    await page.getByText(/^1 of \d+ stations and objects$/).waitFor();
    await page.getByRole('link', { name: 'Weather', exact: true }).click();
    await page.getByRole('heading', { name: 'Weather', level: 1 }).waitFor();
    await page.getByRole('img', { name: /^Pressure: now \d+\.\d hPa/ }).waitFor();
    await page
      .getByText(/^falling fast, −\d+\.\d hPa an hour/)
      .first()
      .waitFor();

    await page.getByRole('button', { name: 'Watch it: QT5WX-13' }).click();
    await page.getByRole('radio', { name: 'Gusts' }).click();
    await page.getByRole('button', { name: 'Raise an alarm then' }).click();
    await page.getByText('A number such as 20 or 0.3').waitFor();
    await page.getByRole('textbox', { name: 'Limit, m/s' }).fill('12.5');
    await page.getByRole('button', { name: 'Raise an alarm then' }).click();
    const banner = page.getByRole('alert');
    await banner.getByText(/^Gusts \d+\.\d m\/s – above 12\.5 m\/s$/).waitFor();
    await page.getByRole('listitem').filter({ hasText: 'alarm is on' }).waitFor();
    await banner.getByRole('button', { name: /^I have seen it/ }).click();
    await banner.waitFor({ state: 'detached' });
    await context.close();
  }, 120_000);

  it('opens a Mic-E packet field by field', async () => {
    const { page, context } = await rig.open(size, '/log?tab=heard');
    await page.getByRole('button', { name: 'More filters' }).click();
    await page.getByRole('radio', { name: 'Mic-E positions' }).click();
    await page
      .getByRole('link', { name: /QT3PC-9/ })
      .first()
      .click();
    await page.getByRole('heading', { name: 'Field by field' }).waitFor();
    await page.getByText('In Service, from the destination', { exact: false }).waitFor();
    await page.getByText(/^43° \d+\.\d\d′ W$/).waitFor();
    await page
      .getByLabel(/^octets \d+ to \d+$/)
      .first()
      .waitFor();
    await context.close();
  }, 120_000);

  it('says of packets what their paths prove, and no more', async () => {
    const { page, context } = await rig.open(size, '/log?tab=heard');
    const show = async (station: string, line: RegExp) => {
      const { rows } = await rig.api<{ rows: PacketSummary[] }>(`/packets?station=${station}&limit=100`);
      const packet = rows.find(({ copies }) => copies.some((copy) => line.test(copy.line)))!;
      await page.goto(`${rig.started.url}/packet/${packet.id}`);
      const copy = packet.copies.find((one) => line.test(one.line))!;
      const list = page.getByRole('list', { name: `What the path says: ${copy.words}` }).first();
      await list.waitFor();
      // The mark in front is drawn by a font.
      const said = await list.getByRole('listitem').allTextContents();
      return said.map((text) => text.slice(text.search(/Certain|Inferred/)));
    };
    // A digipeater that leaves its call out.
    const unsigned = await show('QT8PH-12', /LOCAL\*,WIDE1-1/);
    expect(unsigned).toContainEqual(expect.stringMatching(/^Certain: A digipeater that did not sign passed it on/));
    expect(unsigned.join()).not.toContain('QT0OX-2');
    // One that took its call out of turn: the element in front is not used.
    const early = await show('QT7SH-5', /WIDE1-1,QT0ST-4\*/);
    expect(early).toContain('Certain: QT0ST-4 heard QT7SH-5.');
    expect(early.join()).not.toMatch(/WIDE1-1 |did not sign passed/);
    // One that signs: who heard whom before it is only likely.
    const signing = await show('QT7SH-5', /QT0BR-1\*,QT0ST-4/);
    expect(signing).toContain('Certain: QT0BR-1 passed it on.');
    expect(signing).toContain('Inferred: QT0BR-1 heard QT7SH-5.');
    // Another band behind a gateway: the inner road first, and no internet.
    const crossed = await show('QT8LS-9', /^QT2XB-6>APRS,WIDE1-1:/);
    // What the gateway says of its other band is what it says.
    expect(crossed).toContain(
      'Inferred: The transmission that reached QT2XB-6 was the first one, sent under the call QT8LS-9.',
    );
    expect(crossed).toContainEqual(
      expect.stringMatching(
        /^Certain: The transmission that reached .* was the first one, sent under the call QT2XB-6\.$/,
      ),
    );
    expect(crossed.join()).not.toContain('internet');
    await page.getByRole('button', { name: 'What does it rest on?' }).first().click();
    await page.getByText('because no element of the path is marked as used').first().waitFor();
    await context.close();
  }, 90_000);

  it('reads a recording of mixed packets, and says how many were understood and why others were not', async () => {
    const { page, context } = await rig.open(size, '/log?tab=recordings');
    const call = size === 'phone' ? 'QT8PH' : 'QT8WD';
    const lines = [
      `${call}>S32UVT:\`(_fn"Oj/`,
      `${call}>APRS:T#005,199,000,255,073,123,01101001`,
      `${call}>APRS:_10090556c220s004g005t077r000p000P000h50b09900wRSW`,
      `${call}>APRS:;LEADER   *092345z4903.50N/07201.75W>088/036`,
      `${call}>APRS:>\u202eturned\u200b`,
      `${call}>APRS:!9999.99N/04327.36W-`,
      `${call}>APRS:T#`,
      `${call}>APRS:}nothing inside`,
    ];
    const name = `mixed-${size}.txt`;
    await page
      .locator('input[type=file]')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(lines.join('\n')) });
    await page.getByRole('button', { name: 'Read it' }).click();
    await page.getByText('5 understood, 3 not understood; 8 packets after copies were joined').first().waitFor();
    await page
      .getByText(/^Understood: .*1 Mic-E.*/)
      .first()
      .waitFor();
    await page
      .getByRole('list', { name: 'Why not understood' })
      .getByText('1 × the telemetry has no number')
      .first()
      .waitFor();
    await page.getByRole('button', { name: `Show its packets: ${name}` }).click();
    // What would turn or hide a text is written out.
    await page.getByText('⟨U+202E⟩turned⟨U+200B⟩').first().waitFor();
    await context.close();
  }, 120_000);

  it('draws map files of one’s own, shapes and tiles, and measures', async () => {
    const { page, context } = await rig.open(size, '/chart/maps');
    await page.getByText('Hollin Sound').waitFor();
    const add = async (name: string, buffer: Buffer) => {
      await page.locator('input[type=file]').setInputFiles({ name, mimeType: 'application/octet-stream', buffer });
    };
    await add('notes.txt', Buffer.from('x'));
    await page
      .getByText(
        'notes.txt is neither GeoJSON (.geojson), nor a tile archive (.pmtiles), nor a tile of elevation (.hgt).',
      )
      .waitFor();
    await add('broken.geojson', Buffer.from('{"type":"Feature"}'));
    await page.getByText(/It is not GeoJSON/).waitFor();
    const blank = await context.newPage();
    const tile = await blank.screenshot({ clip: { x: 0, y: 0, width: 256, height: 256 } });
    // A page behind another one is drawn once a second only.
    await blank.close();
    await add(`white-${size}.pmtiles`, tileArchive(tile, 'png'));
    await page.getByRole('button', { name: `Hide: white-${size}.pmtiles` }).waitFor();
    await page.getByRole('link', { name: 'Back to the chart' }).click();
    await drawn(page);
    const map = page.getByRole('application', { name: /^Map of stations/ });
    const box = (await map.boundingBox())!;
    // The picture of the archive is white, as nothing else on the chart is: it shows between the lines of the sea.
    const seaIs = (colour: readonly number[], on = page) =>
      until(async () => {
        const squares = await coloursOf(on, box.x + 30, box.y + box.height - 174, 8);
        return squares.some((seen) => seen.every((value, i) => Math.abs(value - colour[i]!) <= 2));
      });
    await seaIs([255, 255, 255]);
    // By the watch light the same white is the dark red of its lines, and never white.
    const watch = await rig.open(size, '/chart', { light: 'watch' });
    await drawn(watch.page);
    await seaIs([0x55, 0x25, 0x16], watch.page);
    await watch.context.close();

    await page.getByRole('button', { name: 'Measure', exact: true }).click();
    await page.getByRole('button', { name: 'Add my position' }).click();
    await page.getByText(/^From GN81ig/).waitFor();
    await map.focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowLeft');
    await page.getByRole('button', { name: 'Add the middle of the map' }).click();
    await page.getByText(/^\d+(\.\d)? km, \d+° [NESW]+ there, \d+° [NESW]+ back \(true north\)$/).waitFor();
    await page.getByRole('button', { name: 'Stop measuring' }).click();
    await page.goto(`${rig.started.url}/chart/maps`);
    await page.getByRole('button', { name: `Remove: white-${size}.pmtiles` }).click();
    await page.getByRole('button', { name: `Remove for good: white-${size}.pmtiles` }).click();
    await page.getByRole('button', { name: `Keep it: white-${size}.pmtiles` }).waitFor({ state: 'detached' });

    // Shapes: an area of land over the whole world turns the sea into the colour of land.
    await add(`land-${size}.pmtiles`, tileArchive(vectorTile('land'), 'shapes'));
    await page.getByRole('button', { name: `Hide: land-${size}.pmtiles` }).waitFor();
    await page.getByRole('link', { name: 'Back to the chart' }).click();
    await drawn(page);
    await seaIs([252, 249, 241]);
    await page.goto(`${rig.started.url}/chart/maps`);
    await page.getByRole('button', { name: `Remove: land-${size}.pmtiles` }).click();
    await page.getByRole('button', { name: `Remove for good: land-${size}.pmtiles` }).click();
    await page.getByRole('button', { name: `Keep it: land-${size}.pmtiles` }).waitFor({ state: 'detached' });
    await context.close();
  }, 90_000);

  it('follows this device where the browser may tell, and says so where it may not', async () => {
    const { page, context } = await rig.open(size, '/chart');
    await drawn(page);
    await page.getByRole('button', { name: 'Follow me', exact: true }).click();
    await page
      .getByText(/^The browser may not tell where this device is.*Following the position in the settings\.$/)
      .waitFor();
    await page.getByRole('button', { name: 'Stop following me' }).click();

    await context.grantPermissions(['geolocation'], { origin: rig.started.url });
    await context.setGeolocation({ latitude: 41.2, longitude: -43.4, accuracy: 20 });
    await page.getByRole('button', { name: 'Follow me', exact: true }).click();
    await page.getByText(/^Following this device: GN81he, within 20 m, \d+ s ago/).waitFor();
    await page.getByRole('button', { name: 'Measure', exact: true }).click();
    await page.getByRole('button', { name: 'Add my position' }).click();
    await page.getByText(/^From GN81he/).waitFor();
    await page.getByRole('button', { name: 'Stop measuring' }).click();
    await context.setGeolocation({ latitude: 41.3, longitude: -43.4, accuracy: 9 });
    await page.getByText(/^Following this device: GN81hh, within 9 m/).waitFor();
    await context.close();
  }, 120_000);

  it('tells how to call by voice, mutes and notes a station', async () => {
    const { page, context } = await rig.open(size, '/chart/station?call=QT0BR-1');
    await page.getByText('146.340 MHz (offset −0.600 MHz)').waitFor();
    await page.getByText('100.0 Hz', { exact: true }).waitFor();
    await page.getByRole('textbox', { name: 'Note', exact: true }).fill('Key at the school');
    await page.getByRole('button', { name: 'Save the note' }).click();
    await page.getByRole('button', { name: 'Save the note' }).waitFor({ state: 'detached' });
    await page.getByRole('checkbox', { name: 'Mute' }).click();
    await page.goto(`${rig.started.url}/chart`);
    await showList(page, size);
    await page.getByRole('link', { name: /^QT3TK-14/ }).waitFor();
    expect(await page.getByRole('link', { name: /^QT0BR-1/ }).count()).toBe(0);
    expect(await rig.api('/stations/QT0BR-1')).toMatchObject({ muted: true, note: 'Key at the school' });
    await page.goto(`${rig.started.url}/chart/calling`);
    await page.getByText('“QT2AR-7, voice alert, listening on 146.520”').waitFor();
    await context.close();
  }, 120_000);
});
