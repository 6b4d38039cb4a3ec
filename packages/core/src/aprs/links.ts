import { explainPath, isAlias, isInternetMark, isQConstruct } from './path';
import type { Packet } from './packet';

/** Somebody heard somebody by radio: what a path proves. */
export interface HeardLink {
  readonly from: string;
  readonly by: string;
  /** True when this was the sender's own transmission, not one that was repeated. */
  readonly first: boolean;
}

/** A path taken apart: what it proves, and what one may only suppose. */
export interface PathReport {
  readonly certain: readonly string[];
  readonly inferred: readonly string[];
}

/** What the mark of the internet side says of how a packet came there (common practice, from memory). */
export const Q_CONSTRUCTS: Readonly<Record<string, string>> = {
  qAC: 'sent by its own station over a verified connection to the internet',
  qAX: 'sent over a connection to the internet that was not verified',
  qAU: 'sent to the internet side without a connection',
  qAR: 'heard by radio by the gateway, which also sends',
  qAr: 'heard by radio by a station that passed it on over another gateway',
  qAO: 'heard by radio by a gateway that only receives',
  qAo: 'heard by radio by a station that only receives',
  qAS: 'came from a server that does not say where it had it from',
  qAI: 'traced: every server signed',
  qAZ: 'meant for one server only',
};

/** Marks of a packet that the gateway itself heard by radio. */
const BY_RADIO = new Set(['qAR', 'qAr', 'qAO', 'qAo']);

/** Stations that transmitted it one after another, as far as used elements tell; null for one that did not sign. */
function transmitters({ source, path }: Packet): (string | null)[] {
  const q = path.findIndex((hop) => isQConstruct(hop.call));
  const end = q < 0 ? path.length : q;
  let used = 0;
  for (let i = 0; i < end; i++) if (path[i]!.used) used = i + 1;
  const chain: (string | null)[] = [source];
  let signed = false;
  for (let i = 0; i < used; i++) {
    const { call } = path[i]!;
    if (isInternetMark(call)) continue;
    if (!isAlias(call)) {
      chain.push(call);
      signed = true;
    } else if (signed) {
      // The alias that the digipeater before it used up.
      signed = false;
    } else chain.push(null);
  }
  return chain;
}

/**
 * The links that a packet proves. `receiver` is who heard it by radio and tells us, null for a text feed. Between a signed and an
 * unsigned hop nothing is proven.
 */
export function linksOf(packet: Packet, receiver: string | null): HeardLink[] {
  const q = packet.path.findIndex((hop) => isQConstruct(hop.call));
  if (packet.path.some(({ call }) => isInternetMark(call))) return [];
  const gate = q >= 0 && BY_RADIO.has(packet.path[q]!.call) ? (packet.path[q + 1]?.call ?? null) : null;
  const chain = transmitters(packet);
  const last = q >= 0 ? gate : receiver;
  if (last !== null) chain.push(last);
  const links: HeardLink[] = [];
  for (let i = 1; i < chain.length; i++) {
    const [from, by] = [chain[i - 1]!, chain[i]!];
    if (from !== null && by !== null && from !== by) links.push({ from, by, first: i === 1 });
  }
  return links;
}

/** A path in sentences: what is certain, and what is only likely and why. */
export function reportPath(packet: Packet, receiver = 'us'): PathReport {
  const { path, source } = packet;
  const heard = explainPath(packet);
  const certain: string[] = [];
  const inferred: string[] = [];
  const q = path.findIndex((hop) => isQConstruct(hop.call));
  const end = q < 0 ? path.length : q;
  let used = 0;
  for (let i = 0; i < end; i++) if (path[i]!.used) used = i + 1;

  const chain = transmitters(packet);
  if (heard.how === 'direct') {
    certain.push(`No element of the path is marked as used.`);
    inferred.push(
      `The transmission came from ${source} itself – unless a digipeater repeated it without leaving a mark.`,
    );
  }
  for (let i = 1; i < chain.length; i++) {
    const before = chain[i - 1];
    const here = chain[i];
    if (here === null) inferred.push('A digipeater that did not sign passed it on: the path does not say which.');
    else if (before === null) certain.push(`${here} passed it on; whom it heard the path does not say.`);
    else certain.push(`${here} heard ${before} and passed it on.`);
  }
  for (let i = 0; i < used; i++) {
    const { call } = path[i]!;
    if (!isAlias(call) || i === 0) continue;
    const signers = [];
    for (let j = i - 1; j >= 0 && !isAlias(path[j]!.call); j--) signers.unshift(path[j]!.call);
    if (signers.length > 1)
      inferred.push(
        `Which of ${signers.join(' and ')} answered to ${call} the path does not say; usually the last one.`,
      );
    else if (signers.length === 1) inferred.push(`${signers[0]} answered to ${call}: it signed directly before it.`);
  }
  if (heard.how === 'relayed') {
    certain.push(
      heard.heardFrom
        ? `The transmission that reached ${receiver} was that of ${heard.heardFrom}.`
        : `The transmission that reached ${receiver} was that of a digipeater without name.`,
    );
    const hops = heard.via.length + heard.unnamedHops;
    if (hops > 0) certain.push(`${hops === 1 ? 'One hop was' : `${hops} hops were`} used.`);
  }
  if (heard.unused.length > 0) certain.push(`Not used: ${heard.unused.join(', ')}.`);
  if (q >= 0) {
    const mark = path[q]!.call;
    certain.push(`It came by internet; ${mark} says: ${Q_CONSTRUCTS[mark] ?? 'a mark that is not known'}.`);
    if (heard.gate)
      certain.push(
        BY_RADIO.has(mark) ? `${heard.gate} put it there, having heard it by radio.` : `${heard.gate} put it there.`,
      );
  } else if (heard.how === 'internet') certain.push('It came by internet: TCPIP stands in its path.');
  return { certain, inferred };
}
