import type { LinkStream } from '@tombolo/link-stream';
import { createLinkPort, machineClock } from '@tombolo/link-stream';
import type { FakeModem } from './harness';
import { encodeKiss } from '@tombolo/core';

/** Somebody on the channel of a fake modem who takes connections: what the other side of a session says is up to the test. */
export function startPeer(
  modem: FakeModem,
  call: string,
  serve: (stream: LinkStream) => void,
  /** Answers this many connections with a refusal (DM) first. */
  refuseFirst = 0,
): { stop(): void } {
  const options = {
    call: () => call,
    clock: machineClock,
    // A channel without air: answers come at once.
    parameters: { t1Ms: 400, t2Ms: 10, octetMs: 0, overheadMs: 0, n2: 4 },
    send: (frame: Uint8Array) => modem.hearOctets(encodeKiss(frame)),
  };
  const port = createLinkPort({ ...options, onIncoming: serve });
  // A port where nobody is at home answers every connection with DM.
  const refusing = createLinkPort(options);
  let toRefuse = refuseFirst;
  let seen = modem.sent.length;
  const timer = setInterval(() => {
    while (seen < modem.sent.length) {
      const frame = modem.sent[seen++]!;
      if (toRefuse === 0) port.receive(frame);
      else if (refusing.receive(frame)) toRefuse--;
    }
  }, 5);
  return {
    stop() {
      clearInterval(timer);
      port.stop();
    },
  };
}

/** Calls back for each line that arrives. */
export function onLine(stream: LinkStream, line: (text: string) => void): void {
  let rest = '';
  stream.on('data', (octets: Buffer) => {
    const lines = (rest + octets.toString('utf8')).split(/\r\n|\n/);
    rest = lines.pop() ?? '';
    for (const text of lines) line(text);
  });
  stream.on('error', () => undefined);
  stream.on('end', () => stream.end());
}
