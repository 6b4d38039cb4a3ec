import { Client } from 'pg';

/** Where a copy of the data can be made: as a role that reads all and may make scratch databases. */
export interface BackupAccess {
  readonly url: string;
  /** Folder of PostgreSQL's own programs. */
  readonly programs: string;
}

/** A database that takes the call and does not answer is given up, as PostgreSQL's own programs do (PGCONNECT_TIMEOUT). */
export const ANSWER_WITHIN_S = 10;

export const clientOf = (url: string): Client =>
  new Client({ connectionString: url, connectionTimeoutMillis: ANSWER_WITHIN_S * 1000 });
