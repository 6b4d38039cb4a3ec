import { existsSync, mkdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { scratchFolders } from './scratch.mjs';

describe('where tests keep what does not outlast them', () => {
  it('is a folder of this run, which the user of the database gets into; what a run left that is over goes', () => {
    const first = scratchFolders();
    const beside = dirname(first.temporary);
    // No process has so high a number (/proc/sys/kernel/pid_max).
    const left = join(beside, 'tmp-4194305');
    const inMemory = beside === dirname(first.cluster);
    if (inMemory) mkdirSync(left);
    writeFileSync(join(first.temporary, 'kept'), '');
    const again = scratchFolders();
    expect(statSync(again.temporary).mode & 0o777).toBe(0o755);
    expect(existsSync(join(again.temporary, 'kept'))).toBe(false);
    expect(existsSync(left)).toBe(false);
    again.remove();
    first.remove();
    expect(existsSync(again.temporary)).toBe(false);
    expect(existsSync(first.temporary)).toBe(false);
  });
});
