import { createSocket } from 'node:dgram';
import type { AddressInfo } from 'node:net';
import type { BearerState, BearerView, ItemDetail, ItemSummary, PacketSummary } from '@tombolo/contract';
import '@tombolo/contract/testing/udp-pair';
import { createDatabase, eventually, itemWhen, openSettings, startTestStation, apiOf } from '../testing/harness';
import { textTo } from '../testing/written';
import type { BearerAdapter } from './bearer';
import { encodePacketLeg } from './packet-leg';
import { registerBearerAdapter } from './registry';

const LOOPBACK = '127.0.0.1';

/** All that the station needs for a new kind, beside the descriptor of the contract. */
const udpPair: BearerAdapter<'udp-pair'> = {
  kind: 'udp-pair',
  create({ ownPort, otherPort }, context) {
    const socket = createSocket('udp4');
    let state: BearerState = {
      link: 'off',
      since: new Date(context.now()).toISOString(),
      reason: null,
      nextTryAt: null,
    };
    const change = (link: BearerState['link'], reason: string | null) => {
      state = { link, reason, since: new Date(context.now()).toISOString(), nextTryAt: null };
      context.stateChanged();
    };
    socket.on('message', (raw) =>
      context.heard({
        bearerId: context.id,
        importId: null,
        port: null,
        form: 'ax25',
        raw: new Uint8Array(raw),
        heardAtMs: context.now(),
      }),
    );
    socket.on('error', (error) => change('down', error.message));
    return {
      start: () => void socket.bind(ownPort, LOOPBACK, () => change('up', null)),
      stop: () => new Promise((resolve) => socket.close(() => resolve())),
      state: () => state,
      encode: encodePacketLeg,
      transmit: ({ frame }) =>
        new Promise((resolve) =>
          socket.send(frame, otherPort, LOOPBACK, (error) =>
            resolve(
              error
                ? { verdict: 'not taken', words: error.message }
                : { verdict: 'given', words: 'given to the other station' },
            ),
          ),
        ),
    };
  },
};
registerBearerAdapter(udpPair);

/** A port that is free now. */
async function freePort(): Promise<number> {
  const socket = createSocket('udp4');
  await new Promise<void>((resolve) => socket.bind(0, LOOPBACK, resolve));
  const { port } = socket.address() as AddressInfo;
  await new Promise<void>((resolve) => socket.close(() => resolve()));
  return port;
}

async function stationWith(call: string, ownPort: number, otherPort: number) {
  const database = await createDatabase();
  const station = await startTestStation(database.url);
  const api = apiOf(station);
  await api.patch('/settings', { ...openSettings, call });
  const link = await api.post<BearerView>('/bearers', {
    name: 'Across the table',
    config: { kind: 'udp-pair', ownPort, otherPort },
  });
  await eventually(async () => (await api.get<BearerView[]>('/bearers'))[0]?.state.link === 'up');
  return { api, link, stop: () => station.stop().then(database.drop) };
}

describe('a kind of bearer that is registered and nothing more', () => {
  it('is added over the API, and a text crosses both ways with its proof', async () => {
    const [here, there] = [await freePort(), await freePort()];
    const one = await stationWith('QT2AR', here, there);
    const two = await stationWith('QT3BT', there, here);
    try {
      for (const [from, to, call] of [
        [one, two, 'QT3BT-7'],
        [two, one, 'QT2AR-7'],
      ] as const) {
        const words = `From ${from.link.name} to ${call}`;
        const text = textTo(call, words, { bearerId: from.link.id, path: [] });
        await from.api.post('/items', text);
        const { evidence } = await itemWhen(from.api, text.id, ({ status }) => status.rung === 'delivered');
        expect(evidence.find(({ kind }) => kind === 'delivered')).toMatchObject({ bearer: from.link.id, by: call });
        const { rows } = await to.api.get<{ rows: ItemSummary[] }>('/items/open');
        const arrived = rows.find(({ body }) => body === words);
        expect(arrived).toMatchObject({ direction: 'in', kind: 'text' });
        // It came by the common door: its packet is in the log of that bearer.
        const detail = await to.api.get<ItemDetail>(`/items/${arrived!.id}`);
        const heard = await to.api.get<{ rows: PacketSummary[] }>(`/packets?bearerId=${to.link.id}`);
        expect(heard.rows.map(({ id }) => id)).toContain(detail.packetId);
      }
    } finally {
      await one.stop();
      await two.stop();
    }
  });

  it('refuses a configuration that its own schema refuses, and one of a kind that nobody registered', async () => {
    const port = await freePort();
    const one = await stationWith('QT2AR', port, port);
    try {
      const wrong = await one.api.post('/bearers', {
        name: 'x',
        config: { kind: 'udp-pair', ownPort: 0, otherPort: 1 },
      });
      expect(wrong).toMatchObject({ status: 422 });
      expect(JSON.stringify(wrong)).toContain('ownPort');
      const unknown = await one.api.post('/bearers', { name: 'x', config: { kind: 'pigeons' } });
      expect(unknown).toMatchObject({ status: 422 });
      expect(() => registerBearerAdapter(udpPair)).toThrow('there is an adapter for udp-pair already');
    } finally {
      await one.stop();
    }
  });
});
