import { createServer, type Server, type Socket } from 'node:net';

const LF = Uint8Array.of(0x0a);

/** The internet side: every line to everybody who is connected. */
export function serveLineFeed(): { server: Server; publish: (line: Uint8Array) => void } {
  const clients = new Set<Socket>();
  const server = createServer((client) => {
    clients.add(client);
    client.write('# Hollin Sound feed, simulated\n');
    client.on('error', () => client.destroy());
    client.on('close', () => clients.delete(client));
    client.resume();
  });
  server.on('close', () => clients.forEach((client) => client.destroy()));
  return {
    server,
    publish: (line) => {
      for (const client of clients) {
        client.write(line);
        client.write(LF);
      }
    },
  };
}
