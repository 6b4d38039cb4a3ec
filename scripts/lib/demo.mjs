import { readFileSync } from 'node:fs';
import { step } from './progress.mjs';

async function call(url, path, method = 'GET', body) {
  const octets = body instanceof Uint8Array;
  const answer = await fetch(`${url}/api/v1${path}`, {
    method,
    ...(body !== undefined && {
      headers: { 'content-type': octets ? 'application/octet-stream' : 'application/json' },
      body: octets ? body : JSON.stringify(body),
    }),
  });
  if (!answer.ok) throw new Error(`${method} ${path}: ${await answer.text()}`);
  return answer.json();
}

/**
 * Gives a fresh demo database its operator, its links and the six hours before, all through the same doors as anybody's. A database
 * that has links is left as it is.
 */
export async function loadDemo(url, { ports, operator }, historyFile) {
  if ((await call(url, '/bearers')).length > 0) return;
  await step('Loading the demo district', async () => {
    await call(url, '/settings', 'PATCH', operator);
    await call(url, '/imports?name=Six%20hours%20before&format=pcap', 'POST', readFileSync(historyFile));
    await call(url, '/bearers', 'POST', {
      name: 'Packet radio 144.390',
      config: { kind: 'kiss-tcp', host: '127.0.0.1', port: ports.kiss },
    });
    await call(url, '/bearers', 'POST', {
      name: 'Internet feed',
      config: { kind: 'line-feed', host: '127.0.0.1', port: ports.feed },
    });
  });
}
