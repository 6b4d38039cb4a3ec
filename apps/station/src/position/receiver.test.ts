import { randomUUID } from 'node:crypto';
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodeNmea, octetsOfText, textOfOctets, type Seen } from '@tombolo/core';
import type { PositionNow, Settings } from '@tombolo/contract';
import { eachWithModem, eventually } from '../testing/harness';
import { openPtyLine } from '../testing/serial-line/pty-line';
import { createGpsdReader } from './gpsd';

const at = eachWithModem();
const stops: (() => Promise<unknown>)[] = [];
afterEach(async () => {
  for (const stop of stops.splice(0)) await stop();
});

const now = () => at.api.get<PositionNow>('/position');
const two = (n: number) => String(n).padStart(2, '0');
/** A sentence of this moment, by the clock of the machine, at a latitude of 41° and these minutes. */
const sentence = (minutes: number, valid = 'A', aheadS = 0) => {
  const at = new Date(Date.now() + aheadS * 1000);
  const clock = `${two(at.getUTCHours())}${two(at.getUTCMinutes())}${two(at.getUTCSeconds())}.00`;
  const date = `${two(at.getUTCDate())}${two(at.getUTCMonth() + 1)}${two(at.getUTCFullYear() % 100)}`;
  const place = valid === 'A' ? `41${minutes.toFixed(3).padStart(6, '0')},N,04317.100,W` : ',,,';
  return octetsOfText(`${encodeNmea(`GPRMC,${clock},${valid},${place},0.1,88.0,${date},,,A`)}\r\n`);
};

/** A receiver on the network, which says what it is told to say. */
async function networkReceiver() {
  const clients = new Set<Socket>();
  const heard: string[] = [];
  const server: Server = createServer((client) => {
    clients.add(client);
    client.on('data', (chunk) => heard.push(textOfOctets(chunk)));
    client.on('error', () => undefined);
    client.on('close', () => clients.delete(client));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const stop = () =>
    new Promise<void>((resolve) => {
      clients.forEach((client) => client.destroy());
      server.close(() => resolve());
    });
  stops.push(stop);
  return {
    port: (server.address() as AddressInfo).port,
    heard,
    say: (octets: Uint8Array) => clients.forEach((client) => client.write(octets)),
    clients: () => clients.size,
    stop,
  };
}

describe('where the station is', () => {
  it('is what was typed, where no receiver is set', async () => {
    await at.api.patch('/settings', { position: { latitude: 41.5, longitude: -43 } });
    expect(await now()).toEqual({
      source: { by: 'typed' },
      position: { latitude: 41.5, longitude: -43 },
      receiver: null,
    });
  });

  it('is what a receiver on a serial line says, and its report goes out from there', async () => {
    const line = await openPtyLine(4800);
    stops.push(line.stop);
    await at.api.patch('/settings', {
      position: null,
      positionSource: { by: 'serial', device: line.device, speedBd: 4800 },
    });
    await eventually(async () => {
      await line.send(sentence(16.14));
      return (await now()).position !== null;
    });
    const { position, receiver } = await now();
    expect(position!.latitude).toBeCloseTo(41.269, 6);
    expect(receiver).toMatchObject({ link: 'up', fresh: true, lostAt: null, wrong: 0 });
    expect(Math.abs(receiver!.clockAheadS!)).toBeLessThan(5);
    // All distances follow.
    await eventually(async () => (await at.api.get<Settings>('/settings')).position !== null);
    await line.send(sentence(16.2));
    await eventually(async () => Math.abs((await now()).position!.latitude - 41.27) < 0.0001);
    await line.send(sentence(16.2));
    await at.api.post('/position-reports', { id: randomUUID(), bearerId: 'radio', path: [] });
    await eventually(() => at.modem.sent.length === 1);
    expect(textOfOctets(at.modem.sent[0]!)).toContain('=4116.20N/04317.10W');
  });

  it('is unknown while nothing at all comes over a serial line, and it is told for how long', async () => {
    const line = await openPtyLine(4800);
    stops.push(line.stop);
    await at.api.patch('/settings', { positionSource: { by: 'serial', device: line.device, speedBd: 4800 } });
    await eventually(async () => (await now()).receiver?.link === 'up');
    at.aheadMs = 40_000;
    expect((await now()).receiver).toMatchObject({ read: 0, silentS: expect.any(Number) });
    expect((await now()).receiver!.silentS).toBeGreaterThanOrEqual(40);
    expect(await at.api.get<Seen[]>('/ready/seen')).toContainEqual(
      expect.objectContaining({ testId: 'sentences', outcomeId: 'nothing' }),
    );
    await eventually(async () => {
      await line.send(octetsOfText('x'));
      return (await now()).receiver?.silentS === null;
    });
  });

  it('is unknown while the receiver has no fix: nothing is sent from where we were', async () => {
    const receiver = await networkReceiver();
    await at.api.patch('/settings', { positionSource: { by: 'tcp', host: '127.0.0.1', port: receiver.port } });
    await eventually(() => receiver.clients() === 1);
    receiver.say(sentence(16.14));
    await eventually(async () => (await now()).position !== null);
    receiver.say(sentence(16.14, 'V', 2));
    await eventually(async () => (await now()).position === null);
    const lost = await now();
    expect(lost.receiver).toMatchObject({
      fresh: false,
      lostAt: expect.any(String),
      fix: { latitude: expect.any(Number) },
    });
    expect(await at.api.post('/position-reports', { id: randomUUID(), bearerId: 'radio', path: [] })).toMatchObject({
      status: 409,
      detail: expect.stringContaining('no fix'),
    });
    expect(at.modem.sent).toEqual([]);
    receiver.say(sentence(16.15, 'A', 4));
    await eventually(async () => (await now()).position !== null);
  });

  it('is not told to those who ask while it is not known', async () => {
    const receiver = await networkReceiver();
    await at.api.patch('/settings', {
      answerQueries: true,
      positionSource: { by: 'tcp', host: '127.0.0.1', port: receiver.port },
    });
    await eventually(() => receiver.clients() === 1);
    receiver.say(sentence(16.14));
    await eventually(async () => (await now()).position !== null);
    receiver.say(sentence(16.14, 'V', 2));
    await eventually(async () => (await now()).position === null);
    const answers = async () => (await at.api.get<{ rows: { role: string }[] }>('/transmissions')).rows.length;
    at.modem.hear('QT1NC>APRS:?APRS?');
    // What is heard is dealt with in its order.
    at.modem.hear('QT1ND>APRS:>After it');
    await eventually(async () => (await at.api.get<{ rows: unknown[] }>('/packets?station=QT1ND')).rows.length === 1);
    expect(await answers()).toBe(0);
    receiver.say(sentence(16.14, 'A', 4));
    await eventually(async () => (await now()).position !== null);
    at.modem.hear('QT1NE>APRS:?APRS?');
    await eventually(async () => (await answers()) === 1);
  });

  it('does not follow a jump, and counts what cannot be trusted', async () => {
    const receiver = await networkReceiver();
    await at.api.patch('/settings', { positionSource: { by: 'tcp', host: '127.0.0.1', port: receiver.port } });
    await eventually(() => receiver.clients() === 1);
    receiver.say(sentence(16.14));
    await eventually(async () => (await now()).position !== null);
    receiver.say(octetsOfText('\u0000\u0001<html>\r\n$GPRMC,garbage*00\r\n'));
    receiver.say(sentence(59, 'A', 2));
    await eventually(async () => (await now()).receiver!.wrong === 3);
    expect((await now()).position!.latitude).toBeCloseTo(41.269, 4);
    expect((await now()).receiver!.lastWrong).toMatch(/too far off/);
    // A line without an end fills no memory.
    receiver.say(new Uint8Array(200_000).fill(0x41));
    receiver.say(octetsOfText('\n'));
    await eventually(async () => (await now()).receiver!.lastWrong === 'a line without an end');
  });

  it('shows how far the clock of the receiver is off', async () => {
    const receiver = await networkReceiver();
    await at.api.patch('/settings', { positionSource: { by: 'tcp', host: '127.0.0.1', port: receiver.port } });
    await eventually(() => receiver.clients() === 1);
    receiver.say(sentence(16.14, 'A', 3600));
    await eventually(async () => (await now()).receiver?.clockAheadS != null);
    expect((await now()).receiver!.clockAheadS!).toBeGreaterThan(3590);
  });

  it('is typed again when that is chosen, and says why a receiver is not there', async () => {
    const receiver = await networkReceiver();
    const { port } = receiver;
    await receiver.stop();
    await at.api.patch('/settings', {
      position: { latitude: 41.5, longitude: -43 },
      positionSource: { by: 'tcp', host: '127.0.0.1', port },
    });
    await eventually(async () => (await now()).receiver?.link === 'down');
    expect(await now()).toMatchObject({
      position: null,
      receiver: { reason: 'nothing listens at that address and port' },
    });
    await at.api.patch('/settings', { positionSource: { by: 'typed' } });
    expect(await now()).toMatchObject({ position: { latitude: 41.5 }, receiver: null });
  });

  it('is refused a source that is none', async () => {
    for (const source of [
      { by: 'serial', device: 'gps' },
      { by: 'tcp', host: 'a b', port: 1 },
      { by: 'tcp', host: 'x', port: 0 },
      { by: 'stars' },
    ])
      expect(await at.api.patch('/settings', { positionSource: source })).toMatchObject({ status: 422 });
  });
});

describe('gpsd', () => {
  it('is asked for reports and read (gpsd_json(5))', async () => {
    const daemon = await networkReceiver();
    await at.api.patch('/settings', { positionSource: { by: 'gpsd', host: '127.0.0.1', port: daemon.port } });
    await eventually(() => daemon.heard.join('').includes('?WATCH={"enable":true,"json":true};'));
    const time = new Date().toISOString();
    daemon.say(
      octetsOfText(
        [
          { class: 'VERSION', release: '3.22' },
          { class: 'SKY', hdop: 0.9, uSat: 7 },
          { class: 'TPV', mode: 3, time, lat: 41.269, lon: -43.285, altMSL: 12.5, track: 88, speed: 6.43 },
        ]
          .map((report) => `${JSON.stringify(report)}\r\n`)
          .join(''),
      ),
    );
    await eventually(async () => (await now()).position !== null);
    expect((await now()).receiver!.fix).toMatchObject({
      latitude: 41.269,
      satellites: 7,
      hdop: 0.9,
      courseDeg: 88,
      speedKnots: expect.closeTo(12.5, 2),
    });
  });

  it('itself is understood: what it makes of a receiver that gpsfake(1) plays', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'tombolo-'));
    const log = join(folder, 'drive.nmea');
    const sentences = Array.from({ length: 120 }, (_, s) => {
      const rmc = textOfOctets(sentence(16.14, 'A', s));
      const [, clock] = /GPRMC,([\d.]+),/.exec(rmc)!;
      return `${rmc}${encodeNmea(`GPGGA,${clock},4116.140,N,04317.100,W,1,08,1.1,12.0,M,40.0,M,,`)}\r\n`;
    });
    writeFileSync(log, sentences.join(''));
    const { port, stop } = await networkReceiver();
    await stop();
    const playing = spawn('gpsfake', ['-1', '-q', '-c', '0.1', '-P', String(port), '-p', log], {
      stdio: 'ignore',
      // It starts gpsd beside itself: both end as one group.
      detached: true,
    });
    stops.push(async () => {
      const ended = new Promise((resolve) => playing.once('exit', resolve));
      if (playing.exitCode === null) {
        process.kill(-playing.pid!, 'SIGTERM');
        await ended;
      }
      rmSync(folder, { recursive: true });
    });
    await at.api.patch('/settings', { positionSource: { by: 'gpsd', host: '127.0.0.1', port } });
    const { fix, wrong } = await eventually(async () => {
      const { receiver } = await now();
      return receiver?.fix?.altitudeM != null && receiver;
    }, 30);
    expect(fix!.latitude).toBeCloseTo(41.269, 6);
    expect(fix!.longitude).toBeCloseTo(-43.285, 6);
    expect(fix).toMatchObject({ altitudeM: 12, courseDeg: 88, speedKnots: expect.closeTo(0.1, 1) });
    expect(wrong).toBe(0);
  });

  it('may say anything', () => {
    const reader = createGpsdReader();
    // Sentences as the receiver wrote them say nothing wrong.
    expect(reader.push('$GPRMC,081836,A,3751.65,S,14507.36,E,000.0,360.0,130998,011.3,E*62')).toBeNull();
    expect(reader.push('!AIVDM,1,1,,B,177KQJ5000G?tO`K>RA1wUbN0TKH,0*5C')).toBeNull();
    for (const line of ['', '{', 'null', '[]', '{"class":"TPV"}', '{"class":"TPV","mode":"3"}', '{"class":7}'])
      expect(['wrong', 'no fix']).toContain(reader.push(line)?.is);
    expect(reader.push('{"class":"TPV","mode":3,"lat":191,"lon":0}')).toEqual({ is: 'no fix' });
    expect(reader.push('{"class":"TPV","mode":1}')).toEqual({ is: 'no fix' });
    expect(reader.push('{"class":"DEVICES"}')).toBeNull();
  });
});
