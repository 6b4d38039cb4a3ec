import { createServer, type RequestListener, type Server } from 'node:http';

/** Whoever sends the head of a request more slowly is not served; whoever is silent in the middle of one neither. */
const HEAD_WITHIN_MS = 10_000;
const SILENT_FOR_MS = 120_000;
const MOST_SOCKETS = 400;
const HEAD_OCTETS = 32 * 1024;
const LOOPBACK = '127.0.0.1';

/** A server that strangers cannot tie up; it does not listen yet. */
export function createWebServer(app: RequestListener): Server {
  const server = createServer({ headersTimeout: HEAD_WITHIN_MS, maxHeaderSize: HEAD_OCTETS }, app);
  server.maxConnections = MOST_SOCKETS;
  server.setTimeout(SILENT_FOR_MS);
  // What is no HTTP ends its own connection, and nothing else.
  server.on('clientError', (_error, socket) => {
    if (socket.writable) socket.end('HTTP/1.1 400 Bad Request\r\nConnection: close\r\n\r\n', () => socket.destroy());
    else socket.destroy();
  });
  return server;
}

/** Listens on loopback; gives its address. Port 0 takes a free one. */
export async function listenOnLoopback(server: Server, port: number): Promise<string> {
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, LOOPBACK, resolve);
  });
  const address = server.address();
  if (address === null || typeof address === 'string') throw new Error('the server has no port');
  return `http://${LOOPBACK}:${address.port}`;
}

/** Ends it with all connections that it has. */
export function closeServer(server: Server): Promise<void> {
  server.closeAllConnections();
  return new Promise((resolve) => server.close(() => resolve()));
}
