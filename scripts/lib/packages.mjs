import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { step } from './progress.mjs';
import { run } from './run.mjs';
import { root, stateFolder } from './places.mjs';

const onPath = (program) =>
  (process.env.PATH ?? '').split(':').some((folder) => folder && existsSync(join(folder, program)));

const POSTGRES_15 = '/usr/lib/postgresql/15/bin';

/** Debian packages by purpose: how to see that one is there. */
const DEBIAN = {
  'postgresql-15': () => existsSync(join(POSTGRES_15, 'initdb')),
  'chromium-headless-shell': () => onPath('chromium-headless-shell'),
  tshark: () => onPath('tshark'),
  'geographiclib-tools': () => onPath('GeodSolve'),
  'gdal-bin': () => onPath('gdallocationinfo'),
  gpsbabel: () => onPath('gpsbabel'),
  socat: () => onPath('socat'),
  gpsd: () => existsSync('/usr/sbin/gpsd'),
  'gpsd-clients': () => onPath('gpsdecode'),
  'libxml2-utils': () => onPath('xmllint'),
  'poppler-utils': () => onPath('pdftotext'),
  python3: () => onPath('python3'),
  'python3-vobject': () => existsSync('/usr/lib/python3/dist-packages/vobject'),
};

/** Installs what is missing as root; otherwise says the one command that does. */
async function ensureDebianPackages(names) {
  const missing = names.filter((name) => !DEBIAN[name]());
  if (missing.length === 0) return;
  const install = ['install', '-y', '--no-install-recommends', ...missing];
  if (process.getuid?.() !== 0) {
    console.error(
      `\nSome programs are missing. Install them with this command, then start again:\n\n  sudo apt-get ${install.join(' ')}\n`,
    );
    process.exit(1);
  }
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  await step(`Installing ${missing.join(', ')} from Debian's packages`, async () => {
    await run('apt-get', ['-o', 'DPkg::Lock::Timeout=300', 'update'], { env });
    await run('apt-get', ['-o', 'DPkg::Lock::Timeout=300', ...install], { env });
  });
}

/** Installs node packages when the lockfile is not the one last installed. */
async function ensureNodePackages() {
  const digest = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const mark = join(root, 'node_modules', '.tombolo-lock');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === digest) return;
  await step('Installing node packages', () => run('npm', ['ci', '--no-audit', '--no-fund'], { cwd: root }));
  mkdirSync(stateFolder, { recursive: true });
  writeFileSync(mark, digest);
}

/** Installs what is missing of the node packages and of those Debian packages, beside each other: they come from different places. */
export async function ensurePackages(debianNames) {
  // Debian's first: whoever may not install them is told so before anything is fetched.
  const both = await Promise.allSettled([ensureDebianPackages(debianNames), ensureNodePackages()]);
  for (const { status, reason } of both) if (status === 'rejected') throw reason;
}
