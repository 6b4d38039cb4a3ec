import { connect } from 'node:net';
import { once } from 'node:events';
import {
  createKissDecoder,
  decodeFrame,
  encodeKiss,
  encodeMessage,
  formatMonitorLine,
  frameToSend,
  packetOfFrame,
  parseMonitorLine,
  octetsOfText,
  textOfOctets,
  type Hop,
} from '@tombolo/core';
import { buildDistrict, type DistrictOptions } from './district';
import { runDistrict } from './run-district';
import { createWorld, pace } from './sim/world';
import { createChannel } from './radio/channel';
import { repeatedPath } from './stations/digipeater';

const START = Date.UTC(2026, 0, 1);

const lineOf = (octets: Uint8Array): string => {
  const frame = decodeFrame(octets);
  const packet = frame.ok ? packetOfFrame(frame.value) : frame;
  return packet.ok ? textOfOctets(formatMonitorLine(packet.value, { escapes: true })) : '?';
};
const textFrame = (text: string, number: string | null, to = 'QT4LB-8', path = ['WIDE1-1', 'WIDE2-1']) => {
  const info = encodeMessage({ addressee: to, text, number });
  const frame = info.ok ? frameToSend('QT2AR-7', path, info.value) : info;
  if (!frame.ok) throw new Error(frame.error.reason);
  return frame.value;
};

function build(seed: string, options: Partial<DistrictOptions> = {}) {
  const world = createWorld(START, seed);
  const feed: string[] = [];
  const district = buildDistrict(world, {
    scriptStartMs: START,
    publish: (line) => feed.push(textOfOctets(line)),
    quiet: true,
    ...options,
  });
  const heard: string[] = [];
  district.modemRadio.onFrame((frame) => heard.push(lineOf(frame)));
  return { world, district, feed, heard };
}

describe('the world', () => {
  it('runs events in order of time, then of scheduling, and can call them off', () => {
    const world = createWorld(0, 's');
    const order: string[] = [];
    world.after(20, () => order.push('c'));
    world.after(10, () => {
      order.push('a');
      world.after(5, () => order.push('b2'));
    });
    world.after(10, () => order.push('b'));
    world.after(1, () => order.push('never'))();
    world.runUntil(100);
    expect(order).toEqual(['a', 'b', 'b2', 'c']);
    expect(world.now()).toBe(100);
  });
  it.each([
    [Infinity, 300_000],
    [100, 6000],
  ])('with steps of at most %d ms is, after a machine that stood still for 5 s, at %d ms', (mostStepMs, atMs) => {
    const clock = jest.spyOn(Date, 'now').mockReturnValue(1_000_000);
    const world = createWorld(0, 's');
    const pacer = pace(world, 60, mostStepMs);
    try {
      clock.mockReturnValue(1_005_000);
      pacer.touch();
      expect(world.now()).toBe(atMs);
      clock.mockReturnValue(1_005_050);
      pacer.touch();
      expect(world.now()).toBe(atMs + 3000);
    } finally {
      pacer.stop();
      clock.mockRestore();
    }
  });
  it('gives the same chance for the same seed', () => {
    const [a, b, c] = ['s', 's', 't'].map((seed) => createWorld(0, seed).random('x')());
    expect(a).toBe(b);
    expect(a).not.toBe(c);
  });
});

describe('the channel', () => {
  const site = { heightM: 10, powerW: 5, gainDbi: 0, clutterDb: 0 };
  const at = (call: string, longitude: number) => ({ call, position: { latitude: 0, longitude }, site, noiseDb: 0 });
  const open = (calls: [string, number][]) => {
    const world = createWorld(0, 'channel');
    const channel = createChannel(world, { frequencyMHz: 144.39, baud: 1200, screenDb: () => 0 });
    const outcomes: string[][] = [];
    channel.onTransmission((_, __, receivedBy) => outcomes.push([...receivedBy]));
    return { world, outcomes, radios: calls.map(([call, longitude]) => channel.join(at(call, longitude))) };
  };
  const frame = textFrame('Hi', '01');

  it('carries near and not beyond the horizon', () => {
    const { world, outcomes, radios } = open([
      ['A', 0],
      ['B', 0.05],
      ['C', 2],
    ]);
    radios[0]!.send(frame);
    world.runUntil(10_000);
    expect(outcomes).toEqual([['B']]);
  });
  it('lets stations that hear each other wait, and hidden ones collide', () => {
    const near = open([
      ['A', 0],
      ['B', 0.01],
      ['C', 0.02],
    ]);
    near.radios[0]!.send(frame);
    near.world.runUntil(500);
    near.radios[2]!.send(frame);
    near.world.runUntil(20_000);
    expect(near.outcomes).toEqual([
      ['B', 'C'],
      ['A', 'B'],
    ]);
    // A and C are out of each other's reach; B in the middle hears both at equal strength: nothing.
    const hidden = open([
      ['A', 0],
      ['B', 0.2],
      ['C', 0.4],
    ]);
    for (const radio of [hidden.radios[0]!, hidden.radios[2]!]) {
      radio.settings.persistence = 1;
      radio.send(frame);
    }
    hidden.world.runUntil(20_000);
    expect(hidden.outcomes).toEqual([[], []]);
  });
});

describe('digipeaters', () => {
  const path = (text: string): Hop[] => {
    const packet = parseMonitorLine(octetsOfText(`A1A>B,${text}:x`), { escapes: true });
    if (!packet.ok) throw new Error(packet.error.reason);
    return packet.value.path.map(({ call, used }) => ({ call, used }));
  };
  // New-n paradigm as in the 1.1 addendum: from memory, common practice.
  it.each([
    ['WIDE1-1,WIDE2-1', 'fill-in', 'D1D*,WIDE2-1'],
    ['D9D*,WIDE2-1', 'fill-in', null],
    ['D9D*,WIDE2-1', 'wide', 'D9D,D1D*'],
    ['WIDE2-2', 'wide', 'D1D*,WIDE2-1'],
    ['WIDE7-7', 'wide', 'D1D*,WIDE7-1'],
    ['D1D', 'fill-in', 'D1D*'],
    ['D9D*', 'wide', null],
    ['TCPIP', 'wide', null],
  ] as const)('%s through a %s becomes %s', (before, kind, after) => {
    expect(repeatedPath(path(before), 'D1D', kind)).toEqual(after === null ? null : path(after));
  });
});

describe('Hollin Sound', () => {
  it('carries a text over both digipeaters to the lifeboat and the acknowledgement back', () => {
    const { world, district, feed, heard } = build('one');
    district.modemRadio.send(textFrame('Fuel low', '01'));
    world.runUntil(START + 20_000);
    expect(heard).toContain('QT2AR-7>APZTOM,QT0BR-1*,WIDE2-1::QT4LB-8  :Fuel low{01');
    expect(heard).toContain('QT2AR-7>APZTOM,QT0BR-1,QT0TH-3*::QT4LB-8  :Fuel low{01');
    expect(heard).toContainEqual(expect.stringMatching(/^QT4LB-8>APRS,QT0TH-3\*.*:ack01$/));
    expect(feed).toContain('QT2AR-7>APZTOM,QT0BR-1,QT0TH-3*,qAR,QT1GW-10::QT4LB-8  :Fuel low{01');
    world.runUntil(START + 60_000);
    expect(heard).toContainEqual(expect.stringMatching(/:Lifeboat here.*\{..\}01$/));
  });

  it('does not reach the lifeboat without a digipeater', () => {
    const { world, district, heard } = build('two');
    district.modemRadio.send(textFrame('Fuel low', '01', 'QT4LB-8', []));
    world.runUntil(START + 30_000);
    expect(heard.filter((line) => line.includes(':ack'))).toEqual([]);
  });

  it('relays to the clinic, whose acknowledgements often get lost', () => {
    const { world, district, heard } = build('three', { correspondents: { QT6CL: { lostAcknowledgements: 1 } } });
    district.modemRadio.send(textFrame('Hello', '02', 'QT6CL'));
    world.runUntil(START + 60_000);
    expect(heard.some((line) => line.includes('QT0TH-3*'))).toBe(true);
    expect(heard.filter((line) => line.startsWith('QT6CL>'))).toEqual([]);
  });

  it('has a clinic that misses the second part of a text, asks for it, and no more once it has it', () => {
    const { world, district, heard } = build('four', { correspondents: { QT6CL: { lostAcknowledgements: 0 } } });
    const asked = () => heard.filter((line) => /^QT6CL>.*:again 2\/3a\{/.test(line));
    const parts = ['(1/3a) Insulin for', '(2/3a) six people, and', '(3/3a) a cool box'];
    parts.forEach((part, n) =>
      world.after(n * 5000, () => district.modemRadio.send(textFrame(part, `1${n}`, 'QT6CL'))),
    );
    world.runUntil(START + 45_000);
    expect(asked().length).toBeGreaterThan(0);
    expect(heard.some((line) => line.includes(':ack11'))).toBe(false);
    district.modemRadio.send(textFrame(parts[1]!, '11', 'QT6CL'));
    world.runUntil(START + 75_000);
    expect(heard.some((line) => line.includes(':ack11'))).toBe(true);
  });

  it('is the same for the same seed, and keeps the channel usable', () => {
    const run = (seed: string) => {
      const { world, district, heard } = build(seed, { quiet: false });
      let sent = 0;
      let received = 0;
      district.channel.onTransmission((_, __, by) => {
        sent++;
        if (by.length > 0) received++;
      });
      world.runUntil(START + 2 * 3600_000);
      return { heard, sent, received };
    };
    const [first, second, other] = ['a', 'a', 'b'].map(run);
    expect(second).toEqual(first);
    expect(other!.heard).not.toEqual(first!.heard);
    expect(first!.sent).toBeGreaterThan(200);
    expect(first!.received / first!.sent).toBeGreaterThan(0.9);
  });

  it('repeats nothing twice within the window', () => {
    const { world, district } = build('four');
    let repeats = 0;
    district.channel.onTransmission((from) => {
      if (from === 'QT0BR-1') repeats++;
    });
    district.modemRadio.send(textFrame('Fuel low', null));
    world.runUntil(START + 15_000);
    district.modemRadio.send(textFrame('Fuel low', null));
    world.runUntil(START + 25_000);
    expect(repeats).toBe(1);
  });
});

describe('on sockets', () => {
  it('offers a KISS modem, a feed, control of the speed and six hours of history', async () => {
    const running = await runDistrict({ seed: 'sockets', speed: 60 });
    try {
      expect(running.history.length).toBeGreaterThan(20_000);
      const decoder = createKissDecoder();
      const modem = connect(running.ports.kiss, '127.0.0.1');
      const heard: string[] = [];
      modem.on('data', (chunk) => {
        for (const event of decoder.push(chunk)) if (event.kind === 'frame') heard.push(lineOf(event.data));
      });
      await once(modem, 'connect');
      // On a channel in use a frame may be lost: it is tried again, as a station would.
      for (let tries = 0; tries < 20 && !heard.some((line) => line.includes(':ack0A')); tries++) {
        modem.write(encodeKiss(textFrame('Fuel low', '0A')));
        await new Promise((resolve) => setTimeout(resolve, 1000));
      }
      expect(heard).toContainEqual(expect.stringContaining(':ack0A'));
      modem.destroy();
      const url = `http://127.0.0.1:${running.ports.control}/`;
      const put = (speed: number) =>
        fetch(url, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ speed }) });
      expect(await (await put(10)).json()).toMatchObject({ speed: 10, seed: 'sockets' });
      expect((await put(7)).status).toBe(422);
    } finally {
      await running.stop();
    }
  });
});
