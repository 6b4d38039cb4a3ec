/** Why something could not be stored. */
export type StoreFailure =
  /** The database does not answer, or ended the connection. */
  | 'away'
  /** It has no room. */
  | 'full'
  /** Something about the data: it will not go away by trying again. */
  | 'data'
  | 'other';

const NETWORK = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND', 'EHOSTUNREACH']);

/** Sorts an error of the database by its SQLSTATE (PostgreSQL 15, appendix A) or by that of the socket. */
export function storeFailure(error: unknown): StoreFailure {
  const {
    code: outer,
    driverError,
    message,
  } = error as { code?: unknown; driverError?: { code?: unknown }; message?: string };
  const code = typeof outer === 'string' ? outer : driverError?.code;
  if (typeof code === 'string') {
    if (/^2[123]/.test(code)) return 'data';
    // 53100 disk full, 58030 I/O error; what a full disk makes of a write-ahead log as well.
    if (code === '53100' || code === '58030') return 'full';
    // 08 connection, 57P01–03 shut down, crashed, starting; 25006 read only while it recovers; 55000 lets nobody in.
    if (/^08|^57P0/.test(code) || code === '25006' || code === '53300' || code === '55000' || NETWORK.has(code))
      return 'away';
  }
  if (/no space left|could not (extend|write to) file/i.test(message ?? '')) return 'full';
  if (
    /connection terminated|not connected|timeout exceeded when trying to connect|client has encountered a connection error|is not established|query read timeout|already released/i.test(
      message ?? '',
    )
  )
    return 'away';
  return 'other';
}

export const FAILURE_WORDS: Readonly<Record<StoreFailure, string>> = {
  away: 'the database does not answer',
  full: 'the disk is full',
  data: 'the data do not fit',
  other: 'the database refuses it',
};
