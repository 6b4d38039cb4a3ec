import type { IncomingMessage } from 'node:http';

const LOOPBACK_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);
/** What a browser says of a request that our own page made, or that somebody typed (Fetch Metadata Request Headers, §2.3). */
const OWN_SITES = new Set(['same-origin', 'none']);

/** Splits `host:port`, IPv6 in brackets. */
function hostName(header: string): string {
  const end = header.startsWith('[') ? header.indexOf(']') + 1 : header.indexOf(':');
  return end > 0 ? header.slice(0, end) : header;
}

/** Whether a request names this machine, by a name that cannot be pointed elsewhere. */
export function isOwnHost({ headers: { host } }: Pick<IncomingMessage, 'headers'>): boolean {
  return host !== undefined && /^[\w.:[\]-]+$/.test(host) && LOOPBACK_NAMES.has(hostName(host).toLowerCase());
}

/**
 * The station listens on loopback only. A page of another site could still reach it through the operator's own browser: a foreign
 * Host (name rebinding), a foreign Origin, or a request that the browser says another site caused is refused. That a header is missing
 * proves nothing: programs send none.
 */
export function isFriendly(request: Pick<IncomingMessage, 'headers'>): boolean {
  const { host, origin } = request.headers;
  const site = request.headers['sec-fetch-site'];
  if (!host || !isOwnHost(request)) return false;
  if (site !== undefined && !(typeof site === 'string' && OWN_SITES.has(site.toLowerCase()))) return false;
  if (origin === undefined) return true;
  try {
    return new URL(origin).host === host.toLowerCase();
  } catch {
    return false;
  }
}

/** A link on another page that somebody followed opens our page, which then speaks for itself. */
export const isFollowedLink = (request: Pick<IncomingMessage, 'headers' | 'method'>): boolean =>
  request.method === 'GET' &&
  request.headers['sec-fetch-mode'] === 'navigate' &&
  request.headers['sec-fetch-dest'] === 'document';
