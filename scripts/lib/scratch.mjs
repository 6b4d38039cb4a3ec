import { createHash } from 'node:crypto';
import { chmodSync, existsSync, lstatSync, mkdirSync, mkdtempSync, readdirSync, rmSync, statfsSync } from 'node:fs';
import { freemem, tmpdir } from 'node:os';
import { join } from 'node:path';
import { root, stateFolder } from './places.mjs';

const MEMORY = '/dev/shm';
/** As `statfs` tells a file system that is kept in memory. */
const TMPFS = 0x01021994;
/** What a run of the tests leaves at most at once, with room to spare. */
const NEEDED_OCTETS = 4 * 2 ** 30;

/** One's own, and neither put there by somebody else nor a link to elsewhere. */
function ours(folder) {
  try {
    mkdirSync(folder, { recursive: true, mode: 0o755 });
    const found = lstatSync(folder);
    return found.isDirectory() && found.uid === (process.getuid?.() ?? found.uid);
  } catch {
    return false;
  }
}

function memoryFolder() {
  try {
    const { type, bavail, bsize } = statfsSync(MEMORY);
    if (type !== TMPFS || bavail * bsize < NEEDED_OCTETS || freemem() < NEEDED_OCTETS) return null;
  } catch {
    return null;
  }
  const folder = join(MEMORY, `tombolo-${createHash('sha256').update(root).digest('hex').slice(0, 12)}`);
  return ours(folder) ? folder : null;
}

const MARK = /^tmp-(\d+)$/;
const isThere = (pid) => existsSync(`/proc/${pid}`);

/** Temporary folders in it: of runs that go on, after those of runs that were cut off have gone. */
function ofOthers(folder) {
  const all = readdirSync(folder).filter((name) => MARK.test(name));
  const over = all.filter((name) => !isThere(MARK.exec(name)[1]));
  for (const name of over) rmSync(join(folder, name), { recursive: true, force: true });
  return all.filter((name) => !over.includes(name) && name !== `tmp-${process.pid}`);
}

/**
 * Where tests keep what does not outlast them: in memory where the machine has it, for a disk takes most of the time of a test that makes
 * and drops a database of 700 files. `temporary` is this run's alone; a cluster that still runs in `cluster` is taken over.
 */
export function scratchFolders() {
  const memory = memoryFolder();
  if (memory === null) {
    const temporary = mkdtempSync(join(tmpdir(), 'tombolo-tests-'));
    chmodSync(temporary, 0o755);
    return {
      temporary,
      cluster: join(stateFolder, 'test-postgres'),
      remove: () => rmSync(temporary, { recursive: true, force: true }),
    };
  }
  ofOthers(memory);
  const temporary = join(memory, `tmp-${process.pid}`);
  rmSync(temporary, { recursive: true, force: true });
  mkdirSync(temporary);
  // The database's own user has to get through.
  for (const place of [memory, temporary]) chmodSync(place, 0o755);
  return {
    temporary,
    cluster: join(memory, 'postgres'),
    remove: () => {
      rmSync(temporary, { recursive: true, force: true });
      if (!existsSync(memory)) return;
      // Another run may go on, with the same cluster.
      const used = ofOthers(memory).length > 0 || existsSync(join(memory, 'postgres', 'data', 'postmaster.pid'));
      if (!used) rmSync(memory, { recursive: true, force: true });
    },
  };
}
