import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { root } from './places.mjs';
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
export async function loadDemo(url, { operator, people, services, links }, historyFile) {
  if ((await call(url, '/bearers')).length > 0) return;
  await step('Loading the demo district', async () => {
    await call(url, '/settings', 'PATCH', operator);
    for (const { id, ...person } of people) await call(url, `/people/${id}`, 'PUT', person);
    await call(url, '/services', 'POST', { format: 'tombolo services', version: 1, services });
    await call(url, '/imports?name=Six%20hours%20before&format=pcap', 'POST', readFileSync(historyFile));
    await call(
      url,
      '/maps?name=Hollin%20Sound&kind=geojson',
      'POST',
      readFileSync(join(root, 'packages/scenario/map/hollin-sound.geojson')),
    );
    await call(
      url,
      '/maps?name=N41W044.hgt&kind=heights',
      'POST',
      new Uint8Array(gunzipSync(readFileSync(join(root, 'packages/scenario/map/N41W044.hgt.gz')))),
    );
    let modem = null;
    for (const link of links) {
      if (link.config.over) link.config.over = modem;
      const { id } = await call(url, '/bearers', 'POST', link);
      modem ??= id;
    }
  });
}

/** Lets the district run so many times as fast as real time. */
export async function setSpeed(controlPort, speed) {
  const answer = await fetch(`http://127.0.0.1:${controlPort}/`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ speed }),
  });
  if (!answer.ok) throw new Error(`the district does not run at that speed: ${await answer.text()}`);
}
