import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, chmodSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { launchBrowser } from '../../scripts/lib/browser.mjs';

export const ROOT = join(__dirname, '..', '..');

/** The two layouts that every road is walked on. */
export const SIZES = {
  phone: { width: 390, height: 844 },
  wide: { width: 1280, height: 800 },
} as const;
export type Size = keyof typeof SIZES;

export const newDataFolder = (): string => {
  const folder = mkdtempSync(join(process.env.TOMBOLO_SCRATCH ?? tmpdir(), 'tombolo-'));
  // The database's own user has to get in.
  chmodSync(folder, 0o755);
  return folder;
};

/** One with the database made already, where the test command has one to copy. */
function preparedDataFolder(): string {
  const folder = newDataFolder();
  const prepared = process.env.TOMBOLO_PREPARED;
  // With its owners: the database's files are the database's own user's.
  if (prepared) execFileSync('cp', ['-a', `${prepared}/.`, folder]);
  return folder;
}

/** The program as `npm start` runs it, on a data folder of its own. */
export interface Started {
  readonly url: string;
  readonly output: () => string;
  /** Process ids of its parts, by the file they run. */
  pidOf(part: 'station.mjs' | 'district.mjs' | 'keep-database.mjs'): number | undefined;
  /** Sends a signal to the start command; resolves when it has ended. */
  end(signal: NodeJS.Signals): Promise<void>;
  /** Ctrl-C; resolves with the exit code. */
  interrupt(): Promise<number | null>;
}

const START_TIMEOUT_MS = 120_000;

/** Waits for something outside the page and gives it; fails after 30 s, or as long as is said. */
export async function until<T>(condition: () => T | Promise<T>, seconds = 30): Promise<NonNullable<T>> {
  const deadline = Date.now() + seconds * 1000;
  for (;;) {
    const found = await condition();
    if (found) return found;
    if (Date.now() > deadline) throw new Error(`waited ${seconds} s in vain`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** Empty for one that has ended meanwhile. */
function commandOf(pid: number): string {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8');
  } catch {
    return '';
  }
}

export async function startProgram(
  dataFolder: string,
  args: string[] = [],
  env: Record<string, string> = {},
): Promise<Started> {
  const child: ChildProcess = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), ...args], {
    cwd: ROOT,
    env: { ...process.env, TOMBOLO_DATA: dataFolder, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let output = '';
  const url = await new Promise<string>((resolve, reject) => {
    const tooLong = setTimeout(() => reject(new Error(`not ready in time:\n${output}`)), START_TIMEOUT_MS);
    const read = (data: Buffer) => {
      output += String(data);
      const found = /is ready: (\S+)/.exec(output);
      if (!found) return;
      clearTimeout(tooLong);
      resolve(found[1]!);
    };
    child.stdout!.on('data', read);
    child.stderr!.on('data', read);
    child.once('exit', (code) => reject(new Error(`ended with ${code}:\n${output}`)));
  });
  return {
    url,
    output: () => output,
    pidOf: (part) =>
      readFileSync(`/proc/${child.pid}/task/${child.pid}/children`, 'utf8')
        .trim()
        .split(/\s+/)
        .map(Number)
        .find((pid) => commandOf(pid).includes(part)),
    end: (signal) =>
      new Promise((resolve) => {
        child.once('exit', () => resolve());
        child.kill(signal);
      }),
    interrupt: () =>
      new Promise((resolve) => {
        if (child.exitCode !== null) return resolve(child.exitCode);
        child.once('exit', resolve);
        child.kill('SIGINT');
      }),
  };
}

export interface Rig {
  readonly started: Started;
  readonly browser: Browser;
  open(
    size: Size,
    path: string,
    options?: { light?: 'day' | 'dusk' | 'watch' },
  ): Promise<{ page: Page; context: BrowserContext }>;
  api<T = any>(path: string, init?: { method: string; body: unknown }): Promise<T>;
  /** Whether the station takes requests. */
  answers(): Promise<boolean>;
  stop(): Promise<void>;
}

/** Every test closes what it opened: what is left open is that of one that failed, and what it shows tells why. */
async function tellLeftOpen(browser: Browser): Promise<void> {
  for (const page of browser.contexts().flatMap((context) => context.pages())) {
    const shown = await page.innerText('body', { timeout: 5000 }).catch((error: Error) => error.message);
    process.stderr.write(`left open: ${page.url()}\n${shown.replace(/^/gm, '  | ')}\n`);
  }
}

/** The demo district ten times as fast, the drill of its lifeboat only where it is wanted, a clinic that loses every acknowledgement, and a browser. */
export async function startRig({ drillAtMin = null }: { drillAtMin?: number | null } = {}): Promise<Rig> {
  const folder = preparedDataFolder();
  const started = await startProgram(folder, [], {
    TOMBOLO_SPEED: '10',
    TOMBOLO_LOST_ACKNOWLEDGEMENTS: '1',
    TOMBOLO_SEED: 'interface',
    TOMBOLO_DRILL_MIN: String(drillAtMin ?? 'none'),
  });
  const browser = await launchBrowser();
  const api: Rig['api'] = async (path, init) => {
    const answer = await fetch(`${started.url}/api/v1${path}`, {
      method: init?.method ?? 'GET',
      ...(init && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(init.body) }),
    });
    return answer.json() as never;
  };
  return {
    started,
    browser,
    api,
    answers: () =>
      fetch(`${started.url}/api/v1/settings`).then(
        (answer) => answer.ok,
        () => false,
      ),
    async open(size, path, options = {}) {
      const context = await browser.newContext({ viewport: SIZES[size], acceptDownloads: true, colorScheme: 'light' });
      context.setDefaultTimeout(30_000);
      if (options.light)
        await context.addInitScript(
          (light) => localStorage.setItem('tombolo-light', JSON.stringify({ state: { light }, version: 0 })),
          options.light,
        );
      const page = await context.newPage();
      await page.goto(started.url + path);
      return { page, context };
    },
    async stop() {
      await tellLeftOpen(browser);
      await browser.close();
      await started.interrupt();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
