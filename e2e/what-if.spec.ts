import { accessibilityFaults, settled } from './testing/checker';
import { startRig, until, type Rig, type Size } from './testing/rig';

const SIZES: readonly Size[] = ['phone', 'wide'];

describe('a net thought otherwise', () => {
  let rig: Rig;
  beforeAll(async () => {
    rig = await startRig();
    // The mesh may send; packet radio stays locked.
    await rig.api('/settings', { method: 'PATCH', body: { antennaConfirmed: true } });
    // Until the net is known: the weather station of the far island was heard over the high digipeater.
    await until(async () => {
      const { hops } = await rig.api<{ hops: { from: string; to: string; seen: boolean }[] }>('/net');
      return hops.some(({ from, to, seen }) => seen && from === 'QT5WX-13' && to === 'QT0TH-3');
    });
  }, 150_000);
  afterAll(() => rig.stop(), 60_000);

  it.each(SIZES)(
    'shows who is worse off without the high digipeater and where one more helps, on a %s screen',
    async (size) => {
      const { page, context } = await rig.open(size, '/tools');
      await page.getByRole('link', { name: 'What if' }).click();
      await page.getByRole('list', { name: 'Whom you reach' }).waitFor();
      // By keys alone.
      await page.getByRole('textbox', { name: 'Station', exact: true }).fill('QT0TH-3');
      await page.getByRole('button', { name: 'Think it so' }).focus();
      await page.keyboard.press('Enter');
      await page.getByText('QT0TH-3 is off', { exact: true }).waitFor();
      await page.getByText(/(Worse|Cut off): .*QT/).waitFor();
      await page.getByRole('button', { name: 'Look for one place' }).click();
      await page
        .getByRole('list', { name: 'Where one more would help' })
        .getByText(/^Best: /)
        .waitFor();
      await settled(page);
      expect(await accessibilityFaults(page)).toEqual([]);
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
      await page.getByRole('button', { name: 'Think one there' }).click();
      await page.getByText(/^NEW-1, a digipeater more, at 41\./).waitFor();
      // The plan stands in the address: it survives a reload, and the way back takes one change after the other.
      await until(async () => page.url().includes('NEW-1'));
      await page.reload();
      await page.getByText(/^NEW-1, a digipeater more, at 41\./).waitFor();
      await page.getByRole('button', { name: 'As it is: QT0TH-3 is off' }).click();
      await until(async () => (await page.getByText('QT0TH-3 is off', { exact: true }).count()) === 0);
      await page.getByRole('button', { name: 'Undo: the last change' }).click();
      await page.getByText('QT0TH-3 is off', { exact: true }).waitFor();
      // Kept by a name, and put beside the net as it is, by keys alone.
      await page.getByRole('textbox', { name: 'Name of this plan' }).fill('One more mast');
      await page.keyboard.press('Enter');
      await page.getByRole('checkbox', { name: 'Beside the others: One more mast' }).focus();
      await page.keyboard.press('Space');
      const table = page.getByRole('table', { name: 'Plans beside each other' });
      await table.getByRole('rowheader', { name: 'Hear more than half' }).waitFor();
      await table.getByText('…').first().waitFor({ state: 'hidden' });
      expect(await table.getByRole('columnheader').count()).toBe(3);
      expect(await accessibilityFaults(page)).toEqual([]);
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
      await page.reload();
      await table.getByRole('columnheader', { name: 'One more mast' }).waitFor();
      await context.close();
    },
    120_000,
  );

  it.each(SIZES)(
    'tells who hangs on one node of the mesh, and what another setting takes, on a %s screen',
    async (size) => {
      const { page, context } = await rig.open(size, '/tools/what-if');
      await page.getByRole('radio', { name: 'Mesh 868 MHz' }).click();
      const list = page.getByRole('list', { name: 'Whom you reach' });
      await list.getByText(/^LSFARM/).waitFor();
      // The school lies under the hill and hears nobody else.
      await page.getByRole('textbox', { name: 'Node', exact: true }).fill('BCNRIG');
      await page.getByRole('button', { name: 'Think it so' }).click();
      await page.getByText('BCNRIG is off', { exact: true }).waitFor();
      await page.getByText(/(Worse|Cut off): .*LSFARM/).waitFor();
      await list.getByText(/ → 0 of 100, off$/).waitFor();
      await page.getByRole('button', { name: 'As it is: BCNRIG is off' }).click();
      await page.getByRole('radio', { name: 'All nodes on another band, setting or power' }).click();
      await page.getByRole('radio', { name: '12', exact: true }).click();
      await page.getByRole('button', { name: 'Think it so' }).click();
      await page.getByText('All nodes at 868.3 MHz, spreading factor 12, 125 kHz', { exact: true }).waitFor();
      await settled(page);
      expect(await accessibilityFaults(page)).toEqual([]);
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
      // Of all ways together: the farm has none but the mesh.
      await page.getByRole('radio', { name: 'All ways together, to the people of your list' }).click();
      const left = page.getByRole('list', { name: 'Who is left' });
      await left.getByText('Surest: Mesh, to node LSFARM. By nothing else.').waitFor();
      await page.getByRole('checkbox', { name: 'Mesh 868 MHz, a bearer of yours' }).focus();
      await page.keyboard.press('Space');
      await page.getByText(/^Left without any way: .*Oskar Pellmund/).waitFor();
      // Kept by a name, it stands beside things as they are.
      await page.getByRole('textbox', { name: 'Name of this plan' }).fill('Mesh down');
      await page.keyboard.press('Enter');
      await page.getByText('Off: Mesh 868 MHz, a bearer of yours.').waitFor();
      await page.getByRole('checkbox', { name: 'Beside the others: Mesh down' }).click();
      const table = page.getByRole('table', { name: 'Plans beside each other' });
      const cells = table.getByRole('row', { name: /Oskar Pellmund/ }).getByRole('cell');
      await until(async () => /^[1-9]\d? 0$/.test((await cells.allTextContents()).join(' ')));
      // All of it stands in the address.
      await until(async () => page.url().includes('off=') && page.url().includes('beside='));
      await page.reload();
      await table.waitFor();
      await page.getByText(/^Left without any way: .*Oskar Pellmund/).waitFor();
      await settled(page);
      expect(await accessibilityFaults(page)).toEqual([]);
      expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
      await context.close();
    },
    120_000,
  );

  it('shows where a station is heard, reckoned beside the page', async () => {
    const { page, context } = await rig.open('phone', '/tools/reach?from=QT0TH-3&to=QT1NC');
    await page.getByRole('radio', { name: '10 km' }).click();
    await page.getByRole('button', { name: 'Draw where it is heard' }).click();
    const list = page.getByRole('list', { name: 'Where it is heard, in square kilometres' });
    await list
      .getByText(/ of land, /)
      .first()
      .waitFor();
    await settled(page);
    expect(await accessibilityFaults(page)).toEqual([]);
    // A hill of 412 m is heard on most of the land around it.
    const surely = Number(
      /([\d.]+) km² of land/.exec((await list.getByRole('listitem').first().textContent()) ?? '')?.[1],
    );
    expect(surely).toBeGreaterThan(10);
    await context.close();
  }, 120_000);
});
