import { createServer, type AddressInfo, type Socket } from 'node:net';
import { insertBearer } from '../http/routes/bearers';
import type { Station } from '../station';
import { eventually } from './harness';

/** A feed of text lines under the test's control, with the station's bearer to it up; nothing answers for it. */
export async function startLineFeed(station: Pick<Station, 'context'>) {
  const sockets = new Set<Socket>();
  const server = createServer((socket) => void sockets.add(socket.on('error', () => undefined)));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  const config = { kind: 'line-feed' as const, host: '127.0.0.1', port, answerOver: null };
  await insertBearer(station.context, 'feed', 'Feed', config);
  await station.context.bearersChanged();
  await eventually(() => sockets.size > 0);
  return {
    config,
    connections: () => sockets.size,
    say: (line: string) => sockets.forEach((socket) => socket.write(`${line}\r\n`)),
    stop: async () => {
      sockets.forEach((socket) => socket.destroy());
      await new Promise((resolve) => server.close(resolve));
    },
  };
}
