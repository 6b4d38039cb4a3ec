import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import seedrandom from 'seedrandom';
import { airTimeMs, DEFAULT_TIMING, encodeKiss, pcapHeader, pcapRecord } from '@tombolo/core';
import {
  apiOf,
  createDatabase,
  eventually,
  frameOctets,
  openSettings,
  startModem,
  type Api,
} from '../apps/station/src/testing/harness';
import { quantile, type Figure } from './figure';
import { mixedFrame } from './traffic-mix';

const NOISE = 1_000_000;
const PER_BURST = 500;
const MAP_OCTETS = 17_000_000;
const FLOOD_PER_SECOND = 500;
const FLOOD_S = 60;

/** The station as a process of its own, so that its memory and its stalls are its own. */
async function startProcess(databaseUrl: string, spool: string) {
  const child = spawn(process.execPath, [process.env.TOMBOLO_STATION!], {
    env: { ...process.env, TOMBOLO_DATABASE_URL: databaseUrl, TOMBOLO_PORT: '0', TOMBOLO_SPOOL: spool },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  const url = await new Promise<string>((resolve) =>
    child.stdout.on('data', (data) => {
      const found = /listening (\S+)/.exec(String(data));
      if (found) resolve(found[1]!);
    }),
  );
  return { child, url, api: apiOf({ url }) };
}
const residentMB = (pid: number) =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

/** Asks for the state of health again and again while something goes on. */
async function healthDuring(api: Api, work: () => Promise<void>): Promise<number[]> {
  const delays: number[] = [];
  let going = true;
  const asking = (async () => {
    while (going) {
      const asked = performance.now();
      await api.get('/health');
      delays.push(performance.now() - asked);
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
  })();
  await work();
  going = false;
  await asking;
  return delays;
}

export async function hostile(): Promise<Figure[]> {
  const database = await createDatabase();
  const modem = await startModem();
  const folder = mkdtempSync(join(tmpdir(), 'tombolo-hostile-'));
  const station = await startProcess(database.url, join(folder, 'heard.spool'));
  const { api } = station;
  const figures: Figure[] = [];
  const received = async () => Number((await api.get('/bearers'))[0].heardLastHour);
  try {
    await api.patch('/settings', openSettings);
    await api.post('/bearers', { name: 'Radio', config: { kind: 'kiss-tcp', host: '127.0.0.1', port: modem.port } });
    await eventually(() => modem.connections() > 0);

    // A minute of ordinary packets, as fast as no channel brings them.
    const begun = performance.now();
    let sent = 0;
    const flooded = await healthDuring(api, async () => {
      while (performance.now() - begun < FLOOD_S * 1000) {
        const due = Math.floor(((performance.now() - begun) / 1000) * FLOOD_PER_SECOND);
        for (; sent < due; sent++) modem.hearOctets(encodeKiss(mixedFrame(sent)));
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
    });
    await eventually(async () => (await received()) >= sent, 60);
    figures.push({
      name: 'Health during 500 packets/s for a minute',
      value: quantile(flooded, 0.99),
      unit: 'ms',
      goal: 100,
      better: 'less',
      note: `99th percentile of ${flooded.length}; ${sent} packets, all stored`,
    });

    const features = Array.from({ length: Math.ceil(MAP_OCTETS / 150) }, (_, n) => ({
      type: 'Feature',
      properties: { name: `Feature ${n}` },
      geometry: {
        type: 'LineString',
        coordinates: [
          [n / 1e5, 1],
          [n / 1e5, 2],
          [n / 1e5, 3],
        ],
      },
    }));
    const map = JSON.stringify({ type: 'FeatureCollection', features });
    const during = async (name: string, work: () => Promise<unknown>) => {
      const delays = await healthDuring(api, async () => void (await work()));
      figures.push({
        name: `Longest stall: ${name}`,
        value: Math.max(...delays),
        unit: 'ms',
        goal: 50,
        better: 'less',
        note: `longest of ${delays.length} answers about health (median ${quantile(delays, 0.5).toFixed(1)} ms)`,
      });
    };
    const post = (path: string, body: BodyInit) =>
      api.send(path, { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body });
    await during(`a map of ${(map.length / 1e6).toFixed(0)} MB`, () => post('/maps?name=Large&kind=geojson', map));
    const records = [
      pcapHeader(),
      ...Array.from({ length: 20_000 }, (_, n) => pcapRecord(mixedFrame(n), 1_790_000_000_000 + n * 200)),
    ];
    await during('an import of 20 000 packets', () => post('/imports?name=x&format=pcap', Buffer.concat(records)));
    await during('a capture export', async () => (await api.send('/exports/heard.pcap')).arrayBuffer());
    await during('a log export', async () => (await api.send('/exports/log.csv')).arrayBuffer());
    await during('a search in the log', () => api.get('/packets?text=zzzz%20nothing'));

    // Noise: frames of random octets, some of which begin like frames to us.
    const random = seedrandom('noise');
    const before = modem.sent.length;
    const toUs = frameOctets('QT9XX>QT2AR-7:x');
    let most = 0;
    for (let n = 0; n < NOISE; n += PER_BURST) {
      const burst: Uint8Array[] = [];
      for (let i = 0; i < PER_BURST; i++) {
        const frame = Buffer.alloc(20 + Math.floor(random() * 60));
        for (let at = 0; at < frame.length; at += 4)
          frame.writeInt32LE((random() * 2 ** 32) | 0, Math.min(at, frame.length - 4));
        if (i % 2 === 0) frame.set(toUs.subarray(0, 14));
        burst.push(encodeKiss(frame));
      }
      await modem.hearSlowly(Buffer.concat(burst));
      most = Math.max(most, residentMB(station.child.pid!));
    }
    const over = performance.now();
    await eventually(async () => (await api.get('/health')).storing.waiting === 0, 120);
    let last = -1;
    await eventually(async () => {
      const now = Number((await api.get('/bearers'))[0].heardLastHour);
      const still = now === last;
      last = now;
      if (!still) await new Promise((resolve) => setTimeout(resolve, 500));
      return still;
    }, 120);
    figures.push(
      {
        name: 'Memory under a million frames of noise',
        value: most,
        unit: 'MB',
        goal: 400,
        better: 'less',
        note: 'resident, the largest seen',
      },
      {
        name: 'Drained after the noise',
        value: Math.max(0.1, (performance.now() - over) / 1000),
        unit: 's',
        goal: 10,
        better: 'less',
        note: `from the last octet taken until nothing more is stored; ${last} receptions in the last hour`,
      },
    );
    const windows = modem.sent.slice(before).reduce((sum, frame) => sum + airTimeMs(frame, DEFAULT_TIMING), 0) / 1000;
    const budgets = Math.ceil((performance.now() - begun) / 600_000 + 1) * 30;
    figures.push({
      name: 'Automatic air time under noise',
      value: Math.max(0.1, windows),
      unit: 's',
      goal: budgets,
      better: 'less',
      note: `${modem.sent.length - before} frames; the budget is 30 s in any 600 s`,
    });
    return figures;
  } finally {
    station.child.kill('SIGTERM');
    await new Promise((resolve) => station.child.once('exit', resolve));
    await modem.stop();
    await database.drop();
    rmSync(folder, { recursive: true, force: true });
  }
}
