import { connect, type Socket } from 'node:net';
import { createLinkPort, type LinkStream } from '@tombolo/link-stream';
import type { Radio } from '../radio/channel';
import type { World } from '../sim/world';

const OFFER = 'say SMTP, POP3 or BYE\r\n';

/**
 * The radio mail gateway: it bridges a connection to a real SMTP server or mailbox on loopback, one after the other. Only configured call
 * signs are served.
 */
export function runMailGateway(
  world: World,
  radio: Radio,
  relay: { readonly smtpPort: number; readonly popPort: number },
  touch: () => void,
  senders: readonly string[],
): void {
  const { call } = radio.station;
  const serve = (stream: LinkStream) => {
    if (!senders.includes(stream.peer.split('-')[0]!)) {
      stream.end(`${call} serves configured stations alone\r\n`);
      return;
    }
    let bridge: Socket | null = null;
    let rest = '';
    stream.write(`${call} mail for ${stream.peer}\r\n${OFFER}`);
    const open = (port: number) => {
      const socket = connect({ host: '127.0.0.1', port });
      bridge = socket;
      socket.on('data', (octets) => {
        touch();
        if (!stream.destroyed && !stream.write(octets)) {
          socket.pause();
          stream.once('drain', () => socket.resume());
        }
      });
      socket.on('error', () => socket.destroy());
      socket.on('close', () => {
        touch();
        if (bridge === socket) bridge = null;
        if (!stream.destroyed && !stream.writableEnded) stream.write(OFFER);
      });
    };
    stream.on('data', (octets: Buffer) => {
      if (bridge) return void bridge.write(octets);
      rest += octets.toString('latin1');
      const end = rest.indexOf('\n');
      if (end < 0) return;
      const word = rest.slice(0, end).trim().toUpperCase();
      rest = rest.slice(end + 1);
      if (word === 'SMTP') open(relay.smtpPort);
      else if (word === 'POP3') open(relay.popPort);
      else if (word === 'BYE') stream.end();
      else stream.write(OFFER);
    });
    const over = () => bridge?.destroy();
    stream.on('end', () => {
      over();
      stream.end();
    });
    stream.on('close', over);
    stream.on('error', over);
  };
  const port = createLinkPort({
    call: () => call,
    clock: world,
    send: (frame) => radio.send(frame),
    onIncoming: serve,
  });
  radio.onFrame((frame) => port.receive(frame));
}
