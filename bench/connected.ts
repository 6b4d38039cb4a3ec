import {
  decodeFrame,
  encodeFrame,
  linkDown,
  linkFrameOf,
  LINK_DEFAULTS,
  stepLink,
  type LinkEvent,
  type LinkState,
} from '@tombolo/core';
import { createLinkPort, type LinkStream } from '@tombolo/link-stream';
import { createChannel, type Radio } from '../packages/stand-ins/src/radio/channel';
import { createWorld, type World } from '../packages/stand-ins/src/sim/world';
import { median, type Figure } from './figure';

const EVENTS = 400_000;
const ROUNDS = 5;

/** Data and acknowledgements to and fro between two machines, every event a step. */
function stepsPerSecond(): number {
  const parameters = { ...LINK_DEFAULTS, window: 4 };
  const data = new Uint8Array(128);
  let a: LinkState = { ...linkDown(parameters), mode: 'connected' };
  let b: LinkState = { ...linkDown(parameters), mode: 'connected' };
  const start = performance.now();
  let events = 0;
  const give = (state: LinkState, event: LinkEvent) => {
    events++;
    return stepLink(state, event, parameters, events);
  };
  while (events < EVENTS) {
    const sent = give(a, { kind: 'data', octets: data });
    a = sent.state;
    let answers = sent.frames;
    for (const frame of answers) {
      const got = give(b, { kind: 'frame', frame });
      b = got.state;
    }
    const late = give(b, { kind: 'timer', timer: 'T2' });
    b = late.state;
    answers = late.frames;
    for (const frame of answers) a = give(a, { kind: 'frame', frame }).state;
  }
  return events / ((performance.now() - start) / 1000);
}

const SITE = { heightM: 30, powerW: 25, gainDbi: 3, clutterDb: 0 };
const BAUD = 1200;
const TXDELAY_MS = 300;
const TAIL_MS = 20;
const SLOT_MS = 100;
const PERSISTENCE = 0.25;
const PACLEN = 128;
const WINDOW = 4;
const LOSS = 0.01;
const OCTETS = 40_000;

/** Two stations on a channel of their own that loses a share of the frames. */
function pairOnChannel(world: World, pairs: number, loss: number) {
  const channel = createChannel(world, { frequencyMHz: 144.39, baud: BAUD, screenDb: () => 0 });
  const chance = world.random('loss');
  const port = (call: string, n: number, onIncoming?: (stream: LinkStream) => void) => {
    const radio: Radio = channel.join({
      call,
      position: { latitude: 41.2 + n * 0.001, longitude: -43.4 },
      site: SITE,
      noiseDb: 0,
    });
    radio.settings.txDelayMs = TXDELAY_MS;
    const created = createLinkPort({
      call: () => call,
      clock: world,
      parameters: { paclen: PACLEN, window: WINDOW, overheadMs: TXDELAY_MS + 50 },
      send: (frame) => radio.send(frame),
      onIncoming,
    });
    radio.onFrame((frame) => {
      if (chance() >= loss) created.receive(frame);
    });
    return created;
  };
  const received: number[] = Array.from({ length: pairs }, () => 0);
  const streams = Array.from({ length: pairs }, (_, i) => {
    port(`QT1R${String.fromCharCode(65 + i)}`, 2 * i, (stream) => {
      stream.on('data', (octets: Buffer) => (received[i]! += octets.length));
      stream.on('error', () => undefined);
    });
    return port(`QT2S${String.fromCharCode(65 + i)}`, 2 * i + 1).connect(`QT1R${String.fromCharCode(65 + i)}`, []);
  });
  return { streams, received };
}

/** Streams hand over in microtasks, the world in its own time: both are turned until it is done. */
async function turn(world: World, done: () => boolean, mostMs: number): Promise<void> {
  const end = world.now() + mostMs;
  while (!done() && world.now() < end) {
    world.runUntil(Math.min(end, Math.max(world.now() + 20, world.nextAt())));
    await new Promise((resolve) => setImmediate(resolve));
  }
}

/**
 * What could be had at best, octets a second. One round: the sender waits for the channel once a frame (p-persistence: the mean
 * number of slots before it sends is (1−p)/p), sends `WINDOW` frames each with TXDELAY and tail (each frame is a transmission of its
 * own on this channel), then the receiver waits its T2 once, waits for the channel and acknowledges. A lost frame costs its own time
 * again and half a window behind it.
 */
function optimum(): number {
  const frameMs = TXDELAY_MS + TAIL_MS + ((PACLEN + 20) * 8 * (1 + 1 / 62) * 1000) / BAUD;
  const ackMs = TXDELAY_MS + TAIL_MS + (20 * 8 * (1 + 1 / 62) * 1000) / BAUD;
  const waitMs = ((1 - PERSISTENCE) / PERSISTENCE) * SLOT_MS;
  // After each transmission the modem waits a slot before it looks for the next frame.
  const roundMs = WINDOW * (waitMs + frameMs + SLOT_MS) + waitMs + ackMs + SLOT_MS;
  const repeated = 1 + LOSS * (1 + (WINDOW - 1) / 2);
  return (WINDOW * PACLEN * 1000) / (roundMs * repeated);
}

async function goodput(): Promise<number> {
  const world = createWorld(0, 'goodput');
  const { streams, received } = pairOnChannel(world, 1, LOSS);
  const [stream] = streams as [LinkStream];
  await turn(world, () => stream.mode === 'connected', 60_000);
  const startMs = world.now();
  stream.write(Buffer.alloc(OCTETS));
  await turn(world, () => received[0]! >= OCTETS, 3_600_000);
  if (received[0] !== OCTETS) throw new Error(`only ${received[0]} of ${OCTETS} octets arrived`);
  return OCTETS / ((world.now() - startMs) / 1000);
}

/** Ten connections at once: the share of the slowest, where a tenth would be even. */
async function fairness(): Promise<number> {
  const sessions = 10;
  const world = createWorld(0, 'fairness');
  const { streams, received } = pairOnChannel(world, sessions, 0);
  streams.forEach((stream) => {
    stream.on('connect', () => stream.write(Buffer.alloc(20_000)));
  });
  await turn(world, () => received.reduce((sum, octets) => sum + octets, 0) > 60_000, 4 * 3_600_000);
  const total = received.reduce((sum, octets) => sum + octets, 0);
  return (Math.min(...received) / total) * sessions;
}

/** The machine of connected mode, and what comes through it on the simulated channel. */
export async function connected(): Promise<Figure[]> {
  const own = encodeFrame({
    source: { call: 'QT2AR', ssid: 7 },
    destination: { call: 'QT1BB', ssid: 4 },
    commandBits: { destination: true, source: false },
    repeaters: [],
    control: 0,
    pid: 0xf0,
    info: new Uint8Array(PACLEN),
  });
  const decoded = own.ok ? decodeFrame(own.value) : own;
  if (!decoded.ok || !linkFrameOf(decoded.value).ok) throw new Error('frames of a connection cannot be read');
  const rate = median(Array.from({ length: ROUNDS }, stepsPerSecond));
  const best = optimum();
  const through = await goodput();
  return [
    {
      name: 'Connected-mode machine',
      value: rate,
      unit: 'events/s',
      goal: 200_000,
      better: 'more',
      note: `median of ${ROUNDS} rounds over ${EVENTS} events`,
    },
    {
      name: 'Goodput at 1200 Bd with 1 % of the frames lost',
      value: (100 * through) / best,
      unit: '% of the optimum',
      goal: 85,
      better: 'more',
      note: `${through.toFixed(1)} of ${best.toFixed(1)} octets/s for PACLEN ${PACLEN}, window ${WINDOW}, TXDELAY ${TXDELAY_MS} ms, p ${PERSISTENCE}`,
    },
    {
      name: 'Slowest of ten connections on one channel',
      value: 100 * (await fairness()),
      unit: '% of an even share',
      goal: 20,
      better: 'more',
      note: 'none starves: the goal is a fifth of an even share',
    },
  ];
}
