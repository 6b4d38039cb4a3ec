import { createServer as createHttpServer } from 'node:http';
import type { AddressInfo, Server } from 'node:net';
import express from 'express';
import { z } from 'zod';
import { pcapHeader, pcapRecord, joinOctets } from '@tombolo/core';
import { HISTORY_MIN, MESH_ROOT, OWN_CALL, stations } from '@tombolo/scenario';
import { buildDistrict, type District, type DistrictOptions } from './district';
import { trackersOf } from './stations/tracker-feed';
import { createWorld, pace, type Speed } from './sim/world';
import { runMailGateway } from './stations/mail-gateway';
import { startMailRelay } from './mail/mail-relay';
import { serveMeshNode } from './mesh/broker';
import { serveKissModem } from './sockets/kiss-modem';
import { serveLineFeed } from './sockets/line-feed-server';

export interface DistrictPorts {
  readonly kiss: number;
  readonly feed: number;
  readonly control: number;
  readonly mesh: number;
}

export interface RunningDistrict {
  readonly ports: DistrictPorts;
  readonly district: District;
  /** What our radio heard in the hours before the start, as a capture file. */
  readonly history: Uint8Array;
  setSpeed(speed: Speed): void;
  stop(): Promise<void>;
}

export interface RunOptions extends Pick<DistrictOptions, 'correspondents' | 'quiet' | 'drillAtMin'> {
  readonly seed: string;
  readonly ports?: Partial<DistrictPorts>;
  readonly speed?: Speed;
}

/** Simulated time over real time. */
export const speed = z.union([z.literal(1), z.literal(10), z.literal(60)]);
/** What a change of speed may say. */
const change = z.object({ speed });

const listen = (server: Server, port: number) =>
  new Promise<number>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve((server.address() as AddressInfo).port));
  });

/**
 * Runs the district on loopback sockets. The hours before the start are simulated first, at once, by the same world that then
 * goes on in real time.
 */
export async function runDistrict(options: RunOptions): Promise<RunningDistrict> {
  const start = Date.now();
  const world = createWorld(start - HISTORY_MIN * 60_000, options.seed);
  const feed = serveLineFeed();
  const district = buildDistrict(world, {
    scriptStartMs: start,
    publish: feed.publish,
    correspondents: options.correspondents,
    quiet: options.quiet,
    drillAtMin: options.drillAtMin,
  });
  const records: Uint8Array[] = [pcapHeader()];
  let recording = true;
  district.modemRadio.onFrame((frame) => {
    if (recording) records.push(pcapRecord(frame, world.now()));
  });
  // The node learns who is there in the hours before, as a node that is left on does.
  let touch = (): void => undefined;
  let speedNow = () => 1;
  const mesh = await serveMeshNode(district.meshPort, MESH_ROOT, {
    touch: () => touch(),
    speed: () => speedNow(),
    port: options.ports?.mesh ?? 0,
    // In the hours before the start the world’s clock is the one that was shown then.
    now: () => Math.min(world.now(), Date.now()),
  });
  world.runUntil(start);
  recording = false;

  const pacer = pace(world, options.speed ?? 1);
  touch = pacer.touch;
  speedNow = pacer.speed;
  const modem = serveKissModem(district.modemRadio, pacer.touch);
  const relay = await startMailRelay(world, pacer.touch);
  runMailGateway(world, district.radios[stations.mailGateway.call]!, relay, pacer.touch, [OWN_CALL.split('-')[0]!]);
  const control = express();
  const state = () => ({
    running: true,
    speed: pacer.speed(),
    simulatedAt: new Date(world.now()).toISOString(),
    seed: options.seed,
  });
  control.get('/', (_request, response) => void response.json(state()));
  control.put('/', express.json(), (request, response) => {
    const wanted = change.safeParse(request.body);
    if (!wanted.success) return void response.status(422).json({ detail: 'speed is 1, 10 or 60' });
    pacer.setSpeed(wanted.data.speed);
    response.json(state());
  });
  control.get(
    '/trackers.geojson',
    (_request, response) => void response.json(trackersOf(district, Math.min(world.now(), Date.now()))),
  );
  const controlServer = createHttpServer(control);
  const ports = {
    kiss: await listen(modem, options.ports?.kiss ?? 0),
    feed: await listen(feed.server, options.ports?.feed ?? 0),
    control: await listen(controlServer, options.ports?.control ?? 0),
    mesh: mesh.port,
  };
  return {
    ports,
    district,
    history: joinOctets(records),
    setSpeed: pacer.setSpeed,
    async stop() {
      pacer.stop();
      controlServer.closeAllConnections();
      await Promise.all([mesh.stop(), relay.stop()]);
      await Promise.all(
        [modem, feed.server, controlServer].map(
          (server) =>
            new Promise<void>((resolve) => {
              server.close(() => resolve());
              // Sockets still open are ended by the servers themselves.
              server.emit('close');
            }),
        ),
      );
    },
  };
}
