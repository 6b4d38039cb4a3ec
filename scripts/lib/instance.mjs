import { createHash } from 'node:crypto';
import { mkdirSync, realpathSync } from 'node:fs';
import { connect, createServer } from 'node:net';

/** A name in the kernel's own space of sockets: it is free again the moment its holder ends, however that happens. */
function nameOf(folder) {
  mkdirSync(folder, { recursive: true });
  return `\0tombolo-${createHash('sha256').update(realpathSync(folder)).digest('hex').slice(0, 32)}`;
}

const listen = (name, told) =>
  new Promise((resolve, reject) => {
    const server = createServer((socket) => {
      socket.on('error', () => undefined);
      socket.end(JSON.stringify(told()));
    });
    server.once('error', (error) => (error.code === 'EADDRINUSE' ? resolve(null) : reject(error)));
    server.listen({ path: name }, () => resolve(server));
  });

const ask = (name) =>
  new Promise((resolve) => {
    let text = '';
    const socket = connect({ path: name });
    socket.setTimeout(3000, () => socket.destroy());
    socket.on('data', (data) => (text += data));
    socket.on('error', () => undefined);
    socket.on('close', () => {
      try {
        resolve(JSON.parse(text));
      } catch {
        resolve(null);
      }
    });
  });

/**
 * One instance for a data folder. Gives how to free it again, or what the instance that holds it tells of itself.
 * `told` gives what others are told when they ask.
 */
export async function holdFolder(folder, told) {
  const name = nameOf(folder);
  for (let attempt = 0; attempt < 5; attempt++) {
    const server = await listen(name, told);
    if (server) {
      server.unref();
      return { held: true, free: () => new Promise((resolve) => server.close(resolve)) };
    }
    const other = await ask(name);
    if (other) return { held: false, other };
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  return { held: false, other: {} };
}
