import type { IncomingMessage } from 'node:http';

const LOOPBACK_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** Splits `host:port`, IPv6 in brackets. */
function hostName(header: string): string {
  const end = header.startsWith('[') ? header.indexOf(']') + 1 : header.indexOf(':');
  return end > 0 ? header.slice(0, end) : header;
}

/**
 * The station listens on loopback only. A page of another site could still reach it through the operator's own browser: a foreign
 * Host (name rebinding) or a foreign Origin is refused.
 */
export function isFriendly(request: Pick<IncomingMessage, 'headers'>): boolean {
  const { host, origin } = request.headers;
  if (!host || !LOOPBACK_NAMES.has(hostName(host).toLowerCase())) return false;
  if (origin === undefined) return true;
  try {
    return new URL(origin).host === host.toLowerCase();
  } catch {
    return false;
  }
}
