import { accessibilityFaults, settled } from './testing/checker';
import { startBothSizes, type BothSizes } from './testing/both-sizes';
import { until } from './testing/rig';

describe('an emergency, as a drill, on a phone and on a wide screen', () => {
  let sizes: BothSizes;
  beforeAll(async () => {
    sizes = await startBothSizes({ drillAtMin: 1 }, { licenceConfirmed: true, antennaConfirmed: true });
  }, 200_000);
  afterAll(() => sizes.stop(), 60_000);

  it(
    'of the lifeboat raises an alarm, which somebody takes by initials, and clears it',
    () =>
      sizes.walk(async (rig, size) => {
        const { page, context } = await rig.open(size, '/traffic');
        await page.getByText(/^Drill: emergency: QT4LB-8, /).waitFor({ timeout: 60_000 });
        await page
          .getByText('This is no rescue service. Where a phone works, the emergency number comes first.')
          .waitFor();
        await settled(page);
        expect(await accessibilityFaults(page)).toEqual([]);
        await page.getByRole('button', { name: 'I take it: QT4LB-8' }).click();
        await page.getByLabel('Your initials').fill('RH');
        await page.getByRole('button', { name: 'I take it, RH: QT4LB-8' }).click();
        await page.getByText(/^Drill: emergency: QT4LB-8, /).waitFor({ state: 'hidden' });
        const alarms = async () =>
          (await rig.api<{ call: string; takenBy: string; endedAt: string | null }[]>('/alarms'))[0]!;
        expect(await alarms()).toMatchObject({ call: 'QT4LB-8', takenBy: 'RH', drill: true });
        // The boat says otherwise some minutes later, by its own clock.
        await until(async () => (await alarms()).endedAt !== null, 90);
        await context.close();
      }),
    200_000,
  );

  it(
    'of our own is counted down, goes out, tells who repeated it, and ends',
    () =>
      sizes.walk(async (rig, size) => {
        const { page, context } = await rig.open(size, '/tools/emergency');
        await page.getByText('A drill', { exact: true }).click();
        await page.getByLabel('What happened').fill('two cold, one hurt');
        await page.getByRole('button', { name: 'Start the drill …' }).click();
        await page.getByRole('button', { name: 'Take it back' }).click();
        expect(await rig.api('/emergency')).toMatchObject({ own: null });
        await page.getByRole('button', { name: 'Start the drill …' }).click();
        await page.getByRole('heading', { name: 'The drill goes out', exact: true }).waitFor();
        await page.getByText('Repeated or taken by ').first().waitFor({ timeout: 150_000 });
        await page.getByText(/^Drill: our call for help goes out since/).waitFor();
        await settled(page);
        expect(await accessibilityFaults(page)).toEqual([]);
        await page.getByRole('button', { name: 'End the drill, and say so by radio' }).click();
        await page
          .getByRole('button', { name: 'Start the drill …' })
          .or(page.getByRole('button', { name: 'Call for help …' }))
          .waitFor();
        await page.getByText('our call for help is over, for everybody').waitFor({ timeout: 30_000 });
        await context.close();
      }),
    300_000,
  );
});
