import { randomUUID } from 'node:crypto';
import { until } from './run.mjs';

/** Sends what the pictures show, and waits until it is on its way; gives the ids that they need. */
export async function prepare(api) {
  await api('/settings', 'PATCH', {
    licenceConfirmed: true,
    antennaConfirmed: true,
    retry: { firstS: 3, factor: 1.5, capS: 8, tries: 6, jitter: 0.2 },
  });
  const modem = (await api('/bearers')).find(({ config }) => config.kind === 'kiss-tcp').id;
  const text = async (addressee, body) => {
    const item = await api('/items', 'POST', {
      id: randomUUID(),
      addressee,
      body,
      askAcknowledgement: true,
      path: ['WIDE1-1', 'WIDE2-1'],
      bearerId: modem,
    });
    return item.id;
  };
  const lifeboat = await text('QT4LB-8', 'Fuel low at Skerra pier, can you bring 40 l?');
  const clinic = await text('QT6CL', 'Insulin is on the lifeboat, due at noon');
  const rung = async (id) => (await api(`/items/${id}`)).status.rung;
  await until(async () => ['delivered', 'answered'].includes(await rung(lifeboat)), 60, 'the proof of the lifeboat');
  await until(async () => (await rung(clinic)) !== 'sent', 60, 'the road to the clinic');
  return { lifeboat, clinic };
}

/** Every picture of docs/screenshots. */
export const SHOTS = [
  { name: 'traffic-phone', size: 'phone', path: '/traffic' },
  { name: 'traffic-wide', size: 'wide', path: ({ lifeboat }) => `/traffic/${lifeboat}` },
  { name: 'item-phone', size: 'phone', path: ({ lifeboat }) => `/traffic/${lifeboat}` },
  {
    name: 'write-phone',
    size: 'phone',
    path: '/write',
    steps: async (page) => {
      await page.getByRole('textbox', { name: 'To', exact: true }).fill('QT6CL');
      await page.getByRole('textbox', { name: 'Text', exact: true }).fill('How much insulin is left?');
    },
  },
  { name: 'links-phone-dusk', size: 'phone', path: '/links', light: 'dusk' },
  { name: 'links-wide-watch', size: 'wide', path: '/links', light: 'watch' },
  { name: 'log-wide', size: 'wide', path: '/log?tab=heard' },
  { name: 'settings-phone', size: 'phone', path: '/tools/settings' },
];
