import { textOfOctets } from '../../octets';
import { formatAddress } from '../address';
import { decodeFrame, type Ax25Frame } from '../ax25';
import { linkFrameOf, type LinkFrame } from './link-frame';

function whatItDoes(frame: LinkFrame): string {
  switch (frame.type) {
    case 'I':
      return `text no. ${frame.ns}, ${frame.info.length} octets; has all before no. ${frame.nr}`;
    case 'RR':
      return `ready; has all before no. ${frame.nr}`;
    case 'RNR':
      return `not ready; has all before no. ${frame.nr}`;
    case 'REJ':
      return `asks for all from no. ${frame.nr} again`;
    case 'SREJ':
      return `asks for no. ${frame.nr} again`;
    case 'SABM':
      return 'asks for a connection';
    case 'SABME':
      return 'asks for a connection with numbers modulo 128';
    case 'DISC':
      return 'ends the connection';
    case 'DM':
      return 'has no connection';
    case 'UA':
      return 'agrees';
    case 'FRMR':
      return 'could make nothing of a frame';
    case 'XID':
      return 'tells what it is capable of';
    case 'TEST':
      return 'is a test';
  }
}

/** What a frame of a connection does (AX.25 v2.2 §4.3); its numbers are read modulo 8, since the frame alone does not tell. */
export function linkFrameInWords(frame: LinkFrame): string {
  const asked = frame.pollFinal ? (frame.command ? '; to be answered at once' : '; as was asked') : '';
  return `${frame.type}: ${whatItDoes(frame)}${asked}`;
}

/** `<I 3 5 P>`: type, numbers, P of a command or F of a response. */
export function linkFrameMark(frame: LinkFrame): string {
  const numbers = frame.type === 'I' ? [frame.ns, frame.nr] : 'nr' in frame ? [frame.nr] : [];
  return `<${[frame.type, ...numbers, ...(frame.pollFinal ? [frame.command ? 'P' : 'F'] : [])].join(' ')}>`;
}

export interface LinkField {
  readonly name: string;
  readonly words: string;
  readonly from: number;
  readonly to: number;
}

const ADDRESS_OCTETS = 7;

/** Each field of a frame of a connection with its octets (§3.12, §4.2); empty for octets that are none. */
export function explainLinkFrame(octets: Uint8Array): LinkField[] {
  const decoded = decodeFrame(octets);
  const link = decoded.ok ? linkFrameOf(decoded.value) : decoded;
  if (!decoded.ok || !link.ok) return [];
  const frame: Ax25Frame = decoded.value;
  const address = (name: string, words: string, n: number): LinkField => ({
    name,
    words,
    from: n * ADDRESS_OCTETS,
    to: (n + 1) * ADDRESS_OCTETS,
  });
  const controlAt = (2 + frame.repeaters.length) * ADDRESS_OCTETS;
  const pidAt = controlAt + 1;
  const infoAt = octets.length - frame.info.length;
  return [
    address('To', formatAddress(frame.destination), 0),
    address('From', formatAddress(frame.source), 1),
    ...frame.repeaters.map((hop, i) =>
      address('Digipeater', `${formatAddress(hop)}${hop.repeated ? ', repeated it' : ''}`, 2 + i),
    ),
    { name: 'Control', words: linkFrameInWords(link.value), from: controlAt, to: pidAt },
    ...(frame.pid === null
      ? []
      : [{ name: 'Protocol', words: `0x${frame.pid.toString(16).padStart(2, '0')}`, from: pidAt, to: infoAt }]),
    ...(frame.info.length > 0
      ? [{ name: 'Content', words: textOfOctets(frame.info), from: infoAt, to: octets.length }]
      : []),
  ];
}
