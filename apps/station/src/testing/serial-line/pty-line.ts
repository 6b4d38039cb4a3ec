import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { access, mkdtemp, open, realpath, rm, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { readAtSpeed } from './uart';

const run = promisify(execFile);
const READY_WITHIN_MS = 5000;

/** A serial line without wires: the device that a program opens, and the far end, which talks at a speed of its own. */
export interface PtyLine {
  /** Device for the program. */
  readonly device: string;
  /** Sends from the far end, garbled unless the program set the same speed. */
  send(octets: Uint8Array): Promise<void>;
  onData(call: (octets: Uint8Array) => void): void;
  /** The speed that the program set. */
  speedBd(): Promise<number>;
  /** Pulls the plug. */
  stop(): Promise<void>;
}

const untilThere = async (path: string): Promise<void> => {
  const end = Date.now() + READY_WITHIN_MS;
  for (;;) {
    try {
      return await access(path);
    } catch {
      if (Date.now() > end) throw new Error(`no device ${path}`);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }
};

/** Two pseudo-terminals tied together by socat; the far end talks at `talksBd`. */
export async function openPtyLine(talksBd: number): Promise<PtyLine> {
  const folder = await mkdtemp(join(tmpdir(), 'tombolo-line-'));
  const [near, far] = [join(folder, 'near'), join(folder, 'far')];
  const socat: ChildProcess = spawn('socat', [`pty,raw,echo=0,link=${near}`, `pty,raw,echo=0,link=${far}`], {
    stdio: 'ignore',
  });
  const failed = new Promise<never>((_, reject) => socat.once('error', reject));
  failed.catch(() => undefined);
  await Promise.race([Promise.all([untilThere(near), untilThere(far)]), failed]);
  const device = await realpath(near);
  const end: FileHandle = await open(far, 'r+');
  const calls: ((octets: Uint8Array) => void)[] = [];
  const reader = end.createReadStream({ autoClose: false });
  reader.on('data', (chunk) => {
    for (const call of calls) call(chunk as Uint8Array);
  });
  // The plug was pulled.
  reader.on('error', () => undefined);
  const speedBd = async () => Number((await run('stty', ['-F', device, 'speed'])).stdout.trim());
  return {
    device,
    speedBd,
    async send(octets) {
      await end.write(readAtSpeed(octets, talksBd, await speedBd()));
    },
    onData: (call) => calls.push(call),
    async stop() {
      const ended = new Promise((resolve) => socat.once('exit', resolve));
      socat.kill('SIGTERM');
      await ended;
      reader.destroy();
      await end.close().catch(() => undefined);
      await rm(folder, { recursive: true, force: true });
    },
  };
}
