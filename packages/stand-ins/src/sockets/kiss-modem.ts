import { createServer, type Server, type Socket } from 'node:net';
import { createKissDecoder, encodeKiss, KISS_COMMANDS } from '@tombolo/core';
import type { Radio } from '../radio/channel';

/** A modem on a radio of the simulated channel, offering KISS over TCP to any number of programs. */
export function serveKissModem(radio: Radio, touch: () => void): Server {
  const clients = new Set<Socket>();
  radio.onFrame((frame) => {
    const octets = encodeKiss(frame);
    for (const client of clients) client.write(octets);
  });
  const server = createServer((client) => {
    clients.add(client);
    client.setNoDelay(true);
    const decoder = createKissDecoder();
    client.on('data', (chunk) => {
      for (const event of decoder.push(chunk)) {
        if (event.kind !== 'frame' || event.port !== 0) continue;
        const value = event.data[0];
        switch (event.command) {
          case KISS_COMMANDS.data:
            touch();
            radio.send(event.data);
            break;
          case KISS_COMMANDS.txDelay:
            if (value !== undefined) radio.settings.txDelayMs = value * 10;
            break;
          case KISS_COMMANDS.persistence:
            if (value !== undefined) radio.settings.persistence = (value + 1) / 256;
            break;
          case KISS_COMMANDS.slotTime:
            if (value !== undefined) radio.settings.slotMs = Math.max(10, value * 10);
            break;
          case KISS_COMMANDS.txTail:
            if (value !== undefined) radio.settings.txTailMs = value * 10;
        }
      }
    });
    client.on('error', () => client.destroy());
    client.on('close', () => clients.delete(client));
  });
  server.on('close', () => clients.forEach((client) => client.destroy()));
  return server;
}
