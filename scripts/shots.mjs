import { spawn } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensurePackages } from './lib/packages.mjs';
import { root } from './lib/places.mjs';
import { end } from './lib/run.mjs';

/** Takes the pictures of docs/screenshots from the demo district: `npm run shots`, or some: `npm run shots -- traffic`. */
await ensurePackages(['postgresql-15', 'chromium-headless-shell']);
const { launchBrowser } = await import('./lib/browser.mjs');
const { SHOTS } = await import('./lib/shot-list.mjs');

const SIZES = { phone: { width: 390, height: 844 }, wide: { width: 1280, height: 800 } };
const folder = process.env.TOMBOLO_SHOTS ?? join(root, 'docs/screenshots');
const chosen = process.argv.slice(2);
mkdirSync(folder, { recursive: true });
const data = mkdtempSync(join(tmpdir(), 'tombolo-shots-'));
chmodSync(data, 0o755);

const program = spawn(process.execPath, [join(root, 'scripts/start.mjs')], {
  env: { ...process.env, TOMBOLO_DATA: data, TOMBOLO_SPEED: '10', TOMBOLO_SEED: 'pictures', TOMBOLO_DRILL_MIN: 'none' },
  stdio: ['ignore', 'pipe', 'inherit'],
});
const url = await new Promise((resolve, reject) => {
  let output = '';
  program.stdout.on('data', (chunk) => {
    output += chunk;
    const found = /is ready: (\S+)/.exec(output);
    if (found) resolve(found[1]);
  });
  program.once('exit', () => reject(new Error(output)));
});
const api = async (path, method = 'GET', body) => {
  const answer = await fetch(`${url}/api/v1${path}`, {
    method,
    ...(body && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
  return answer.json();
};
const browser = await launchBrowser();
try {
  const { prepare } = await import('./lib/shot-list.mjs');
  const known = { ...(await prepare(api)), api };
  for (const shot of SHOTS) {
    if (chosen.length > 0 && !chosen.some((word) => shot.name.includes(word))) continue;
    const context = await browser.newContext({ viewport: SIZES[shot.size] });
    const light = JSON.stringify({ state: { light: shot.light ?? 'day' }, version: 0 });
    await context.addInitScript((value) => localStorage.setItem('tombolo-light', value), light);
    const page = await context.newPage();
    page.setDefaultTimeout(20_000);
    await page.goto(url + (typeof shot.path === 'function' ? await shot.path(known) : shot.path));
    await page.getByRole('heading', { level: 1 }).first().waitFor();
    await page.waitForFunction(() => !document.body.innerText.includes('Loading '));
    await shot.steps?.(page, known);
    await page.waitForLoadState('networkidle');
    await page.evaluate(() => document.fonts.ready);
    await page.screenshot({ path: join(folder, `${shot.name}.png`) });
    console.log(`${shot.name}.png`);
    await context.close();
  }
} finally {
  await browser.close();
  program.kill('SIGINT');
  await new Promise((resolve) => program.once('exit', resolve));
  await end(program);
  rmSync(data, { recursive: true, force: true });
}
