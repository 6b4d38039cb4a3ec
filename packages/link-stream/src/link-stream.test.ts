import { once } from 'node:events';
import { randomBytes } from 'node:crypto';
import { decodeFrame, decodeXid, encodeFrame, encodeXid, type Ax25Frame } from '@tombolo/core';
import {
  AlreadyConnected,
  createLinkPort,
  LinkError,
  machineClock,
  type Clock,
  type LinkPort,
  type LinkStream,
} from './index';

/** A clock a thousand times as fast as the machine's, so that protocol seconds pass in milliseconds. */
const fast: Clock = {
  now: () => Date.now() * 100,
  after: (delayMs, action) => machineClock.after(delayMs / 100, action),
};

function twoPorts(lost: () => boolean = () => false, mostConnections?: number) {
  const incoming: LinkStream[] = [];
  const make = (call: string, other: () => LinkPort, onIncoming?: (stream: LinkStream) => void): LinkPort =>
    createLinkPort({
      call: () => call,
      clock: fast,
      mostConnections,
      onIncoming,
      parameters: { octetMs: 0.1, overheadMs: 5, n2: 5 },
      send: (frame) => {
        if (!lost()) setTimeout(() => other().receive(frame), 1);
      },
    });
  const a: LinkPort = make('QT2AR-7', () => b);
  const b: LinkPort = make(
    'QT1BB-4',
    () => a,
    (stream) => incoming.push(stream),
  );
  return { a, b, incoming };
}

async function readAll(stream: NodeJS.ReadableStream): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

describe('a connection as a stream', () => {
  it('carries octets both ways in order over a lossy channel and ends cleanly', async () => {
    let n = 0;
    const { a, incoming } = twoPorts(() => ++n % 11 === 0);
    const out = a.connect('QT1BB-4', []);
    await once(out, 'connect');
    const far = incoming[0]!;
    const there = randomBytes(20_000);
    const back = randomBytes(7_000);
    const read = readAll(far);
    const readBack = readAll(out);
    far.write(back);
    out.end(there);
    expect((await read).equals(there)).toBe(true);
    far.end();
    expect((await readBack).equals(back)).toBe(true);
    expect(a.connections()).toHaveLength(0);
    expect(out.acknowledged).toBe(there.length);
  }, 20_000);

  it('holds the sender back while nobody reads, and loses nothing', async () => {
    const { a, incoming } = twoPorts();
    const out = a.connect('QT1BB-4', []);
    await once(out, 'connect');
    const far = incoming[0]!;
    const sent = randomBytes(60_000);
    out.end(sent);
    await new Promise<void>((resolve) => {
      const look = () => (far.readableLength >= 4096 ? resolve() : void setTimeout(look, 5));
      look();
    });
    expect(far.readableLength).toBeLessThan(10_000);
    expect((await readAll(far)).equals(sent)).toBe(true);
  }, 20_000);

  it('says why it failed: refused, no answer', async () => {
    const refusing = twoPorts(() => false, 0);
    const refused = refusing.a.connect('QT1BB-4', []);
    await expect(once(refused, 'connect')).rejects.toMatchObject({ reason: 'refused' });
    const silent = twoPorts(() => true);
    const stream = silent.a.connect('QT1BB-4', ['QT0BR-1']);
    const [error] = (await once(stream, 'error')) as [LinkError];
    expect(error).toBeInstanceOf(LinkError);
    expect(error.message).toBe('QT1BB-4: no answer');
  }, 20_000);

  it('takes one connection with the same station at a time, and no foreign address', () => {
    const { a } = twoPorts();
    a.connect('QT1BB-4', []);
    expect(() => a.connect('QT1BB-4', [])).toThrow(AlreadyConnected);
    expect(() => a.connect('no call', [])).toThrow();
    a.stop();
  });

  it('answers a frame of a connection that it does not know with DM, and leaves other frames alone', () => {
    const { a } = twoPorts();
    expect(a.receive(Uint8Array.of(1, 2, 3))).toBe(false);
  });

  // AX.25 v2.2 §4.3.3.7, §4.3.3.8 and appendix C4.
  it('answers TEST with its octets, XID with what it offers, and a polling UI with DM', () => {
    const answers: Ax25Frame[] = [];
    const port = createLinkPort({
      call: () => 'QT2AR-7',
      clock: fast,
      send: (octets, { refusal }) => {
        const frame = decodeFrame(octets);
        if (frame.ok && refusal) answers.push(frame.value);
      },
    });
    const ask = (control: number, info: Uint8Array, command = true) => {
      const frame = encodeFrame({
        source: { call: 'QT1BB', ssid: 4 },
        destination: { call: 'QT2AR', ssid: 7 },
        commandBits: { destination: command, source: !command },
        repeaters: [{ call: 'QT0BR', ssid: 1, repeated: true }],
        control,
        pid: 0xf0,
        info,
      });
      if (!frame.ok) throw new Error(frame.error.reason);
      return port.receive(frame.value);
    };
    expect(ask(0xf3, Uint8Array.of(1, 2, 3))).toBe(true);
    expect(answers.pop()).toMatchObject({
      control: 0xf3,
      info: Uint8Array.of(1, 2, 3),
      commandBits: { destination: false, source: true },
      repeaters: [{ call: 'QT0BR', ssid: 1, repeated: false }],
    });
    const offer = { selectiveReject: true, window: 7, fieldOctets: 256 };
    expect(ask(0xbf, encodeXid(offer))).toBe(true);
    expect(decodeXid(answers.pop()!.info)).toEqual({ ok: true, value: { ...offer, window: 4 } });
    // The packet in it is still heard; without the poll nothing is answered, nor is a response.
    expect(ask(0x13, Uint8Array.of(0x3e))).toBe(false);
    expect(answers.pop()).toMatchObject({ control: 0x1f });
    expect(ask(0x03, Uint8Array.of(0x3e))).toBe(false);
    expect(ask(0xf3, Uint8Array.of(1), false)).toBe(true);
    expect(ask(0xbf, Uint8Array.of(1), true)).toBe(true);
    expect(answers).toEqual([]);
  });
});
