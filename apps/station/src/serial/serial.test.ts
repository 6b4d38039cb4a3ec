import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { BearerView } from '@tombolo/contract';
import { createKissDecoder, encodeKiss, nmeaChecksum, octetsOfText, SPEED_ORDER, type Seen } from '@tombolo/core';
import { openPtyLine, type PtyLine } from '../testing/serial-line/pty-line';
import { insertBearer } from '../http/routes/bearers';
import type { Station } from '../station';
import {
  apiOf,
  createDatabase,
  eventually,
  frameOctets,
  itemWhen,
  openSettings,
  RADIO,
  startTestStation,
  type Api,
  type TestDatabase,
} from '../testing/harness';
import { textTo } from '../testing/written';
import { probeSpeeds } from './probe';
import { serialPorts } from './ports';

let database: TestDatabase;
let station: Station;
let api: Api;
const lines: PtyLine[] = [];
const lineAt = async (talksBd: number) => {
  const line = await openPtyLine(talksBd);
  lines.push(line);
  return line;
};
beforeEach(async () => {
  database = await createDatabase();
  station = await startTestStation(database.url);
  api = apiOf(station);
  await api.patch('/settings', openSettings);
});
afterEach(async () => {
  await station.stop();
  await Promise.all(lines.splice(0).map((line) => line.stop()));
  await database.drop();
});

const modemOn = (device: string, speedBd: 4800 | 9600) =>
  insertBearer(station.context, RADIO, 'Serial modem', {
    kind: 'kiss-serial',
    device,
    speedBd,
    modemPort: 0,
    frequencyMHz: null,
    txDelayMs: 600,
    persistencePercent: 25,
    slotMs: 100,
    path: [],
    confirms: false,
  });
const state = async () => (await api.get<BearerView[]>('/bearers'))[0]!.state;
const octetsSeen = async () =>
  (await api.get<Seen[]>('/ready/seen')).find(({ testId }) => testId === 'octets')?.outcomeId ?? null;

describe('a modem on a serial line', () => {
  it('is told its transmit delay, persistence and slot, hears, sends a text and brings its acknowledgement', async () => {
    const line = await lineAt(9600);
    const commands: [number, number][] = [];
    const decoder = createKissDecoder();
    line.onData((chunk) => {
      for (const event of decoder.push(chunk)) {
        if (event.kind !== 'frame') continue;
        commands.push([event.command, event.data[0]!]);
        // The addressee takes the text.
        if (event.command === 0)
          void line.send(
            encodeKiss(
              frameOctets(
                `QT4LB-8>APRS::QT2AR-7  :ack${/\{(\w+)/.exec(Buffer.from(event.data).toString('latin1'))![1]}`,
              ),
            ),
          );
      }
    });
    await modemOn(line.device, 9600);
    await eventually(async () => (await state()).link === 'up');
    expect(await line.speedBd()).toBe(9600);
    // Commands 1 and 3 in units of 10 ms, 2 as 256 p - 1 (Chepponis & Karn 1987).
    await eventually(() => commands.length >= 3);
    expect(commands.slice(0, 3)).toEqual([
      [1, 60],
      [2, 63],
      [3, 10],
    ]);
    const text = textTo('QT4LB-8', 'Fuel low');
    await api.post('/items', text);
    await itemWhen(api, text.id, ({ status }) => status.rung === 'delivered');
  });

  it('set to another speed brings octets that are no frames, which the ready check names; set right, it is heard', async () => {
    const line = await lineAt(9600);
    await modemOn(line.device, 4800);
    await eventually(async () => (await state()).link === 'up');
    const heard = encodeKiss(frameOctets('QT1NC>APRS,QT0BR-1*:>Net control'));
    await eventually(async () => {
      await line.send(heard);
      return (await octetsSeen()) === 'garbled';
    }, 30);
    const [{ config }] = (await api.get<BearerView[]>('/bearers')) as [BearerView];
    await api.patch(`/bearers/${RADIO}`, { config: { ...config, speedBd: 9600 } });
    await eventually(async () => (await line.speedBd()) === 9600);
    await eventually(async () => {
      await line.send(heard);
      return (await octetsSeen()) === 'frames';
    }, 30);
  }, 80_000);

  it('says so when it was pulled out, and when it is not there', async () => {
    const line = await lineAt(9600);
    await modemOn(line.device, 9600);
    await eventually(async () => (await state()).link === 'up');
    await lines.pop()!.stop();
    await eventually(async () => (await state()).link === 'down');
    await eventually(async () => /is it plugged in\?$/.test((await state()).reason ?? ''), 20);
    expect(await api.post('/items', textTo('QT4LB-8', 'Kept'))).not.toHaveProperty('title');
  });

  it('is refused where the name is no device', async () => {
    for (const device of [
      'ttyUSB0',
      '/etc/passwd',
      '/dev/watchdog',
      '/dev/sda',
      '/dev/tty1',
      '/dev/../etc/passwd',
      '/dev/tty USB0',
    ])
      expect(await api.post('/bearers', { name: 'Wrong', config: { kind: 'kiss-serial', device } })).toMatchObject({
        status: 422,
      });
  });
});

describe('the speed of a line', () => {
  const sentences = octetsOfText(
    ['GPRMC,081530.00,A,4116.140,N,04317.100,W,0.1,88.0,271126,,,A', 'GPGLL,4116.140,N,04317.100,W,081530.00,A,A']
      .map((body) => `$${body}*${nmeaChecksum(body).toString(16).toUpperCase().padStart(2, '0')}\r\n`)
      .join(''),
  );
  /** Talks on, as a receiver does. */
  const talking = (line: PtyLine, octets: Uint8Array) => {
    const timer = setInterval(() => void line.send(octets).catch(() => undefined), 100);
    return () => clearInterval(timer);
  };

  it('is found by trying, and what each looked like is said', async () => {
    const line = await lineAt(9600);
    const hush = talking(line, sentences);
    try {
      const { tried, foundBd } = await probeSpeeds(line.device, 'position', 700);
      expect(foundBd).toBe(9600);
      expect(tried.map(({ speedBd, verdict }) => [speedBd, verdict])).toEqual([
        [4800, 'wrong'],
        [9600, 'right'],
      ]);
      expect(tried[0]!.words).toMatch(
        /^at 4800 Bd no good sentence in 0\.7 s and \d+ % of the octets outside the set$/,
      );
    } finally {
      hush();
    }
  }, 60_000);

  it('is not found where nobody talks; a device that is not there, or is in use, is said to be', async () => {
    const line = await lineAt(4800);
    expect(await probeSpeeds(line.device, 'position', 20)).toMatchObject({ foundBd: null });
    await expect(probeSpeeds('/dev/ttyUSB99', 'modem', 20)).rejects.toThrow('is it plugged in?');
    await modemOn(line.device, 9600);
    await eventually(async () => (await state()).link === 'up');
    expect(await api.post('/serial-ports/probe', { device: line.device, talk: 'modem' })).toMatchObject({
      status: 409,
      title: 'A bearer uses that port',
    });
  }, 60_000);

  it('is given up when the device is pulled out meanwhile', async () => {
    const line = await lineAt(4800);
    const before = await line.speedBd();
    expect(before).not.toBe(SPEED_ORDER.modem[0]);
    const probed = probeSpeeds(line.device, 'modem', 20_000);
    probed.catch(() => undefined);
    await eventually(async () => (await line.speedBd()) === SPEED_ORDER.modem[0]);
    await lines.pop()!.stop();
    await expect(probed).rejects.toThrow('The port was lost');
    // Whoever comes next is not told that somebody else is at it.
    await expect(probeSpeeds(line.device, 'modem', 20)).rejects.toThrow('is it plugged in?');
  }, 60_000);

  it('is asked for one device at a time', async () => {
    const line = await lineAt(4800);
    const first = probeSpeeds(line.device, 'modem', 50);
    await expect(probeSpeeds(line.device, 'modem', 50)).rejects.toThrow('by somebody else');
    await first;
  }, 60_000);
});

describe('serial devices', () => {
  it('are those of the folder of devices, what is plugged in before what is built in', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'tombolo-dev-'));
    try {
      for (const name of ['ttyS1', 'ttyUSB10', 'ttyUSB2', 'tty0', 'null', 'rfcomm0', 'ttyACM0'])
        await writeFile(join(folder, name), '');
      expect(await serialPorts(folder)).toEqual([
        { device: '/dev/rfcomm0', builtIn: false },
        { device: '/dev/ttyACM0', builtIn: false },
        { device: '/dev/ttyUSB2', builtIn: false },
        { device: '/dev/ttyUSB10', builtIn: false },
        { device: '/dev/ttyS1', builtIn: true },
      ]);
      expect(await serialPorts(join(folder, 'none'))).toEqual([]);
    } finally {
      await rm(folder, { recursive: true });
    }
  });
});
