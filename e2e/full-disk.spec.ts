import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startModem, type FakeModem } from '../apps/station/src/testing/harness';
import { ROOT, until } from './testing/rig';

/**
 * A disk of its own for the program, small and in a mount namespace that nobody else sees: it starts the program there, then takes
 * commands, one a line.
 */
const NAMESPACE = `
set -e
mount -t tmpfs -o size=260m,mode=711 none "$TOMBOLO_DATA"
"$NODE" "$ROOT/scripts/start.mjs" --empty &
program=$!
while read -r command; do
  case "$command" in
    fill) dd if=/dev/zero of="$TOMBOLO_DATA/filled" bs=64k 2>/dev/null || true ;;
    free) rm -f "$TOMBOLO_DATA/filled" ;;
    end) kill -INT $program; wait $program || true; exit 0 ;;
  esac
  echo "did $command"
done
kill -INT $program; wait $program || true
`;

describe('a disk that is full', () => {
  let folder: string;
  let modem: FakeModem;
  let shell: ChildProcess;
  let output = '';
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'tombolo-full-'));
    modem = await startModem();
    shell = spawn('unshare', ['-m', 'sh', '-c', NAMESPACE], {
      env: { ...process.env, TOMBOLO_DATA: folder, ROOT, NODE: process.execPath },
      stdio: ['pipe', 'pipe', 'pipe'],
    });
    for (const stream of [shell.stdout!, shell.stderr!]) stream.on('data', (data) => (output += String(data)));
    for (let tries = 0; tries < 4 && !/is ready: /.test(output); tries++)
      await until(() => /is ready: |could not start/.test(output)).catch(() => undefined);
    expect(output).toMatch(/is ready: /);
  }, 120_000);
  afterAll(async () => {
    const ended = new Promise((resolve) => shell.once('exit', resolve));
    shell.stdin!.end('end\n');
    await ended;
    await modem.stop();
    rmSync(folder, { recursive: true, force: true });
  }, 120_000);

  const say = async (command: string) => {
    shell.stdin!.write(`${command}\n`);
    await until(() => output.includes(`did ${command}`));
  };
  const call = async <T = unknown>(
    path: string,
    method = 'GET',
    body?: unknown,
  ): Promise<{ status: number; body: T }> => {
    const url = /is ready: (\S+)/.exec(output)![1]!;
    const answer = await fetch(`${url}/api/v1${path}`, {
      method,
      ...(body !== undefined && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
    return { status: answer.status, body: (await answer.json()) as T };
  };
  const storing = async () =>
    (await call<{ storing: { storing: boolean; reason: string | null; waiting: number; lost: number } }>('/health'))
      .body.storing;

  it('is told at once, loses nothing that is heard, and all is stored when there is room again', async () => {
    await call('/settings', 'PATCH', { call: 'QT2AR', licenceConfirmed: true, antennaConfirmed: true });
    await call('/bearers', 'POST', {
      name: 'Radio',
      config: { kind: 'kiss-tcp', host: '127.0.0.1', port: modem.port },
    });
    await until(() => modem.connections() > 0);
    modem.hear('QT1NC>APRS:>before');
    await until(async () => (await call<{ rows: unknown[] }>('/packets')).body.rows.length === 1);

    await say('fill');
    let sent = 0;
    // Until a table or its index needs room that is not there.
    await until(async () => {
      for (let n = 0; n < 200; n++) modem.hear(`QT1NC>APRS:>${String(sent++).padStart(6, '0')} ${'x'.repeat(200)}`);
      return !(await storing()).storing;
    });
    expect((await storing()).reason).toBe('the disk is full');
    for (let n = 0; n < 300; n++) modem.hear(`QT1NC>APRS:>${String(sent++).padStart(6, '0')} ${'x'.repeat(200)}`);
    await until(async () => (await storing()).waiting >= 300);
    // A page is answered, and a change is refused in words rather than waited for.
    expect((await call('/items')).status).toBe(200);
    const refused = await call('/settings', 'PATCH', { statusText: 'x'.repeat(60) });
    expect([200, 503]).toContain(refused.status);

    await say('free');
    await until(async () => {
      const state = await storing();
      return state.storing && state.waiting === 0;
    });
    expect((await storing()).lost).toBe(0);
    const heard = new Set<string>();
    let before = '';
    for (;;) {
      const { body } = await call<{ rows: { summary: string }[]; next: string | null }>(
        `/packets?limit=200${before && `&before=${before}`}`,
      );
      for (const { summary } of body.rows) heard.add(/\d{6}/.exec(summary)?.[0] ?? summary);
      if (!body.next) break;
      before = encodeURIComponent(body.next);
    }
    for (let n = 0; n < sent; n++) expect(heard).toContain(String(n).padStart(6, '0'));
  }, 120_000);
});
