import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import type { WaypointsNow } from '@tombolo/contract';
import { decodeNmea, textOfOctets } from '@tombolo/core';
import { eachWithModem, eventually } from '../testing/harness';
import { openPtyLine } from '../testing/serial-line/pty-line';

const at = eachWithModem();
const stops: (() => Promise<unknown>)[] = [];
afterEach(async () => {
  for (const stop of stops.splice(0)) await stop();
});

/** A navigation receiver on the network that keeps what it is told. */
async function navigator() {
  const clients = new Set<Socket>();
  let heard = '';
  const server: Server = createServer((client) => {
    clients.add(client);
    client.on('data', (chunk) => (heard += textOfOctets(chunk)));
    client.on('error', () => undefined);
    client.on('close', () => clients.delete(client));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  stops.push(
    () =>
      new Promise<void>((resolve) => {
        clients.forEach((client) => client.destroy());
        server.close(() => resolve());
      }),
  );
  return {
    port: (server.address() as AddressInfo).port,
    unplug: () => clients.forEach((client) => client.destroy()),
    /** Names of the waypoints that came, each time one came. */
    names: () =>
      heard
        .split('\r\n')
        .slice(0, -1)
        .map((line) => {
          const sentence = decodeNmea(line);
          if (!sentence.ok) throw new Error(sentence.error.reason);
          return sentence.value.waypoint!;
        }),
  };
}
const state = () => at.api.get<WaypointsNow>('/waypoints');
const send = (port: number, more: object = {}) =>
  at.api.patch('/settings', {
    waypointsOut: { to: { by: 'tcp', host: '127.0.0.1', port }, kinds: ['station', 'object'], withinKm: null, ...more },
  });
const hear = async (line: string, call: string) => {
  at.modem.hear(line);
  await eventually(async () =>
    (await at.api.get<{ call: string; name: string }[]>('/stations')).some((one) =>
      [one.call, one.name].includes(call),
    ),
  );
};

describe('a navigation receiver', () => {
  it('gets what is heard, each place once, again when it moved, and all when it was unplugged', async () => {
    const receiver = await navigator();
    await hear('QT3TK-14>APZTOM:=4112.45N/04325.41Wk', 'QT3TK-14');
    await hear('QT1NC>APZTOM:;FLOOD    *111111z4112.00N\\04324.00Ww', 'FLOOD');
    await hear('QT5XX>APZTOM:>no place', 'QT5XX');
    await send(receiver.port);
    await eventually(() => receiver.names().length === 2, 15);
    expect(receiver.names().sort()).toEqual(['FLOOD', 'QT3TK-14']);
    expect(await state()).toMatchObject({ link: 'up', given: 2 });
    await hear('QT3TK-14>APZTOM:=4112.55N/04325.41Wk', 'QT3TK-14');
    await eventually(() => receiver.names().length === 3, 15);
    expect(receiver.names()[2]).toBe('QT3TK-14');
    receiver.unplug();
    await eventually(() => receiver.names().length === 5, 20);
  });

  it('gets only what is near enough and of the kinds that were chosen', async () => {
    const receiver = await navigator();
    await at.api.patch('/settings', { position: { latitude: 41.2, longitude: -43.4 } });
    await hear('QT3TK-14>APZTOM:=4112.45N/04325.41Wk', 'QT3TK-14');
    await hear('QT9FR>APZTOM:=4312.45N/04325.41Wk', 'QT9FR');
    await hear('QT1NC>APZTOM:;FLOOD    *111111z4112.00N\\04324.00Ww', 'FLOOD');
    await send(receiver.port, { kinds: ['station'], withinKm: 50 });
    await eventually(() => receiver.names().length > 0, 15);
    expect(receiver.names()).toEqual(['QT3TK-14']);
  });

  it('on a serial line gets them too, and one that is away is said', async () => {
    await at.api.patch('/settings', {
      waypointsOut: {
        to: { by: 'serial', device: '/dev/pts/99999', speedBd: 4800 },
        kinds: ['station'],
        withinKm: null,
      },
    });
    await eventually(async () => (await state()).reason?.includes('is it plugged in?'));
    const line = await openPtyLine(4800);
    stops.push(line.stop);
    let received = '';
    line.onData((octets) => (received += textOfOctets(octets)));
    await hear('QT3TK-14>APZTOM:=4112.45N/04325.41Wk', 'QT3TK-14');
    await at.api.patch('/settings', {
      waypointsOut: { to: { by: 'serial', device: line.device, speedBd: 4800 }, kinds: ['station'], withinKm: null },
    });
    await eventually(async () => (await state()).given > 0, 15);
    await eventually(() => received.includes('$GPWPL,4112.4500,N,04325.4100,W,QT3TK-14*'), 10);
    await at.api.patch('/settings', { waypointsOut: null });
    expect(await state()).toMatchObject({ out: null, link: 'off' });
  });

  it('is refused where it makes no sense', async () => {
    for (const wrong of [{ kinds: [] }, { withinKm: 0 }, { to: { by: 'tcp', host: 'a b', port: 1 } }])
      expect(await send(1, wrong)).toMatchObject({ status: 422 });
  });
});
