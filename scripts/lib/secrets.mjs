import { randomBytes } from 'node:crypto';
import { chmodSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** The roles of the database, each with a password of its own. */
export const ROLES = ['admin', 'owner', 'app', 'backup'];

/** Passwords of the database's roles: made once, kept in a file that its owner alone can read. */
export function databaseSecrets(folder) {
  const file = join(folder, 'secrets.json');
  const kept = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {};
  const missing = ROLES.filter((role) => typeof kept[role] !== 'string');
  for (const role of missing) kept[role] = randomBytes(24).toString('base64url');
  if (missing.length > 0) writeFileSync(file, JSON.stringify(kept), { mode: 0o600 });
  chmodSync(file, 0o600);
  return kept;
}
