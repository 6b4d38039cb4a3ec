import { withoutEnd } from '../text/trim';
import { joinOctets, latin1OfOctets, octetsOfLatin1 } from '../octets';

export interface MboxMessage {
  readonly sender: string;
  readonly at: Date;
  /** The message as in RFC 5322, any line ends. */
  readonly octets: Uint8Array;
}

const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const two = (n: number) => String(n).padStart(2, '0');

/** `Thu Nov 25 07:40:00 2026`, UTC (RFC 4155, appendix A, as asctime writes it). */
const stamp = (at: Date): string =>
  `${DAYS[at.getUTCDay()]} ${MONTHS[at.getUTCMonth()]} ${String(at.getUTCDate()).padStart(2)} ` +
  `${two(at.getUTCHours())}:${two(at.getUTCMinutes())}:${two(at.getUTCSeconds())} ${at.getUTCFullYear()}`;

/** An mbox archive (RFC 4155): a separator line, lines ended by LF, lines that begin with `From ` quoted by `>`. */
export function formatMbox(messages: readonly MboxMessage[]): Uint8Array {
  return joinOctets(
    messages.map(({ sender, at, octets }) => {
      const lines = latin1OfOctets(octets)
        .replace(/\r\n?/g, '\n')
        .replace(/^(>*From )/gm, '>$1');
      const body = `${withoutEnd(lines, '\n')}\n`;
      const address = sender.replace(/[^\x21-\x7e]+/g, '') || 'unknown@localhost';
      return octetsOfLatin1(`From ${address} ${stamp(at)}\n${body}\n`);
    }),
  );
}
