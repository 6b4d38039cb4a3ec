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
  const text = async (address, body) => {
    const item = await api('/items', 'POST', {
      id: randomUUID(),
      addressee: { is: 'address', address },
      content: { is: 'text', body },
      way: { by: 'packets', bearerId: modem, path: ['WIDE1-1', 'WIDE2-1'], askAcknowledgement: true },
    });
    return item.id;
  };
  const lifeboat = await text('QT4LB-8', 'Fuel low at Skerra pier, can you bring 40 l?');
  const clinic = await text('QT6CL', 'Insulin is on the lifeboat, due at noon');
  const rung = async (id) => (await api(`/items/${id}`)).status.rung;
  const bearers = await api('/bearers');
  const board = bearers.find(({ config }) => config.kind === 'board').id;
  const mail = bearers.find(({ config }) => config.kind === 'radio-mail').id;
  const mesh = bearers.find(({ config }) => config.kind === 'mesh-mqtt').id;
  await until(async () => ['delivered', 'answered'].includes(await rung(lifeboat)), 120, 'the proof of the lifeboat');
  await until(async () => (await rung(clinic)) !== 'sent', 60, 'the road to the clinic');
  const farm = await arrived(api, 'When do you run again');
  const [way] = await api(`/items/${farm}/relays`);
  await api(`/items/${farm}/relays`, 'POST', {
    id: randomUUID(),
    bearerId: way.bearerId,
    to: way.to,
    person: way.person,
    text: way.text,
    released: true,
  });
  await until(async () => (await rung(farm)) === 'answered', 150, 'the answer of the phone');
  const { id } = await api('/sessions', 'POST', { bearerId: board });
  await until(async () => (await api(`/sessions/${id}`)).endedAt !== null, 120, 'a session with the board');
  return { lifeboat, clinic, farm, board, mail, mesh };
}

/** The item that arrived with these words. */
async function arrived(api, words) {
  let id = null;
  await until(
    async () => {
      id = (await api('/items?direction=in')).rows.find(({ body }) => body.includes(words))?.id ?? null;
      return id !== null;
    },
    60,
    `“${words}”`,
  );
  return id;
}

/** Until stations and trails are on the map. */
const drawn = (page) =>
  page.waitForFunction(() =>
    ['stations painted', 'trails painted'].every((mark) => performance.getEntriesByName(mark).length > 0),
  );

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
      await page.getByRole('textbox', { name: 'Whom', exact: true }).fill('Renske');
      await page.getByRole('button', { name: 'For Dr Renske Hallow', exact: true }).click();
      await page.getByText(/^Proposed and set below: /).waitFor();
      await page.getByRole('textbox', { name: 'Text', exact: true }).fill('How much insulin is left?');
      const ways = page.getByRole('region', { name: 'Ways' });
      await ways.getByRole('button', { name: /^Compare / }).click();
      await ways.evaluate((region) => region.scrollIntoView());
    },
  },
  { name: 'bearers-phone-dusk', size: 'phone', path: '/bearers', light: 'dusk' },
  { name: 'bearers-wide-watch', size: 'wide', path: '/bearers', light: 'watch' },
  { name: 'log-wide', size: 'wide', path: '/log?tab=heard' },
  {
    name: 'first-steps-phone',
    size: 'phone',
    path: '/start?step=where',
    steps: (page) => page.getByRole('heading', { name: 'Where', exact: true }).waitFor(),
  },
  {
    name: 'relay-desk-phone',
    size: 'phone',
    path: async ({ api }) => `/traffic/${await arrived(api, 'Not before tomorrow 0700Z')}`,
    steps: async (page) => {
      await page.getByRole('button', { name: 'Hand it on …' }).click();
      await page.getByRole('button', { name: /^Answer back to node/ }).click();
      await page.getByRole('textbox', { name: 'What is sent' }).scrollIntoViewIfNeeded();
    },
  },
  { name: 'board-phone', size: 'phone', path: ({ board }) => `/bearers/${board}` },
  {
    name: 'service-phone',
    size: 'phone',
    path: '/write',
    steps: async (page) => {
      await page.getByRole('button', { name: 'By a service', exact: true }).click();
      await page.getByRole('button', { name: 'Phone text', exact: true }).click();
      await page.getByRole('button', { name: 'Ferry Office', exact: true }).click();
      await page.getByRole('textbox', { name: 'Text', exact: true }).fill('Do you take pallets tomorrow?');
    },
  },
  {
    name: 'mesh-wide',
    size: 'wide',
    path: ({ mesh }) => `/bearers/${mesh}`,
    steps: async (page) => {
      await page.getByText('01D1-0001', { exact: false }).first().waitFor();
    },
  },
  {
    name: 'position-phone',
    size: 'phone',
    path: '/tools/position',
    steps: async (page) => {
      await page.getByRole('textbox', { name: 'Comment', exact: true }).fill('Skerra school, shelter');
      await page
        .getByText(/In its reach: /)
        .first()
        .waitFor();
      await page.getByText('What goes out').scrollIntoViewIfNeeded();
    },
  },
  {
    name: 'help-phone',
    size: 'phone',
    path: '/tools/emergency',
    steps: (page) => page.getByLabel('What happened').fill('two hurt, one cold'),
  },
  { name: 'chart-phone', size: 'phone', path: '/chart', steps: drawn },
  { name: 'chart-wide', size: 'wide', path: '/chart?station=QT3TK-14', steps: drawn },
  { name: 'station-phone', size: 'phone', path: '/chart/station?call=QT0BR-1' },
  {
    name: 'what-if-phone',
    size: 'phone',
    path: `/tools/what-if?plan=${encodeURIComponent(JSON.stringify([{ what: 'off', call: 'QT0TH-3' }]))}`,
    steps: async (page) => {
      await page.getByRole('list', { name: 'Whom you reach' }).waitFor();
      await page.getByRole('heading', { name: 'Whom you reach' }).evaluate((heading) => heading.scrollIntoView());
    },
  },
  {
    name: 'packet-phone',
    size: 'phone',
    // One that a digipeater took out of turn: what the path proves, and on what that rests.
    path: async ({ api }) => {
      const { rows } = await api('/packets?station=QT7SH-5&limit=100');
      return `/packet/${rows.find(({ copies }) => copies.some(({ line }) => line.includes('WIDE1-1,QT0ST-4*'))).id}`;
    },
    steps: async (page) => {
      const last = page.getByRole('button', { name: 'What does it rest on?' }).last();
      await last.click();
      await page.getByRole('heading', { name: /^Heard/ }).scrollIntoViewIfNeeded();
    },
  },
];
