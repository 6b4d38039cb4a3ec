import {
  elementForm,
  explainPath,
  isInternetMark,
  isQConstruct,
  isUsed,
  mayHideHops,
  type HeardPath,
} from '../aprs/path';
import { innermostLayers } from '../aprs/third-party';
import type { Packet } from '../aprs/packet';
import { heardByRadio, Q_CONSTRUCTS } from './q-constructs';
import { statement, type Fact, type Statement } from './statement';

export interface Reception {
  /** Who received the transmission by radio, as words name it; null when a text feed told it. */
  readonly receiver: string | null;
  /** Calls of which it is on record that they transmitted something of their own. */
  readonly isStation: (call: string) => boolean;
}

const fact = (from: Fact['from'], words: string): Fact => ({ from, words });
const H_BIT = fact('standard', 'a digipeater marks what it passed on, and nobody else does (AX.25 v2.2, the H bit)');
const ONE_STAR = fact('supposition', 'this element was used, which a text with one star does not tell');
const UNSIGNED = fact('supposition', 'no digipeater that leaves its call out stood between');

/** What is known of a word in a path that stands for a digipeater. */
function nameFact(call: string, isStation: Reception['isStation']): Fact {
  if (elementForm(call) === 'station') return fact('standard', `${call} has the form of a call sign (ITU RR art. 19)`);
  if (isStation(call)) return fact('record', `${call} was heard as a station of its own`);
  return fact('supposition', `${call} is a station, and not a word that many answer to`);
}

/** What a path proves and makes likely, in sentences; a wrapped packet's inner road first. */
export function packetStatements(packet: Packet, reception: Reception): Statement[] {
  const layers = innermostLayers(packet);
  return layers
    .map((layer, i) => {
      const wrapper = layers[i - 1]?.source;
      return wrapper === undefined
        ? layerStatements(layer, reception, null)
        : layerStatements(withoutSignature(layer, wrapper), { ...reception, receiver: wrapper }, wrapper);
    })
    .reverse()
    .flat();
}

/** The wrapper's own call behind the path of what it wrapped tells who wrapped it, not who repeated it. */
function withoutSignature(layer: Packet, wrapper: string): Packet {
  const last = layer.path.at(-1);
  return last?.call === wrapper && last.used ? { ...layer, path: layer.path.slice(0, -1) } : layer;
}

function layerStatements(packet: Packet, { receiver, isStation }: Reception, wrapper: string | null): Statement[] {
  const { path } = packet;
  const q = path.findIndex((hop) => isQConstruct(hop.call));
  const radio = q < 0 ? packet : { ...packet, path: path.slice(0, q) };
  const heard = explainPath(radio, isStation);
  const mark = q < 0 ? null : path[q]!.call;
  const gate = q < 0 ? null : (path[q + 1]?.call ?? null);
  const byInternet = path.some(({ call }) => isInternetMark(call));
  const by = byInternet ? null : mark === null ? receiver : heardByRadio(mark) ? gate : null;
  const teller = wrapper ?? (mark === null ? null : (gate ?? 'the internet side'));
  return [
    ...hearsay(teller, radioStatements(radio, heard, by, isStation)),
    ...internet(mark, gate, byInternet, wrapper),
  ];
}

/** What somebody else tells of the air is what they say: it rests on that as well. */
function hearsay(teller: string | null, statements: readonly Statement[]): readonly Statement[] {
  if (teller === null) return statements;
  const told = fact('supposition', `${teller} tells it as it was`);
  return statements.map(({ words, claim, facts }) => statement(words, claim, [...facts, told]));
}

function radioStatements(
  radio: Packet,
  heard: HeardPath,
  by: string | null,
  isStation: Reception['isStation'],
): Statement[] {
  const { source } = radio;
  return [
    ...passings(radio, isStation),
    ...(by === null ? [] : reached(radio, heard, by)),
    ...between(heard, source),
    ...counted(radio, heard),
    ...(heard.unused.length === 0
      ? []
      : [
          statement(`Still open: ${heard.unused.join(', ')}.`, { is: 'still open', elements: heard.unused }, [
            fact('packet', 'these elements stand behind the last used one'),
          ]),
        ]),
  ];
}

const markOf = (call: string, implied?: true): Fact[] =>
  implied
    ? [fact('packet', `${call} stands before the last used element`), ONE_STAR]
    : [fact('packet', `${call} is marked as used`), H_BIT];

/** Who passed it on. */
function passings({ path }: Packet, isStation: Reception['isStation']): Statement[] {
  const found: Statement[] = [];
  let signer: string | null = null;
  /** It may have signed, where a text with one star does not say. */
  let perhaps: string | null = null;
  for (const hop of path) {
    const { call, implied } = hop;
    if (!isUsed(hop)) {
      signer = null;
      perhaps = implied && elementForm(call) !== 'generic' ? call : null;
      continue;
    }
    if (elementForm(call) === 'generic' && !isStation(call)) {
      if (signer === null)
        found.push(
          statement(
            'A digipeater that did not sign passed it on: the path does not say which.',
            { is: 'passed on', by: null },
            [
              ...markOf(call, implied),
              ...(perhaps === null ? [] : [fact('supposition', `${perhaps} was passed over, and did not sign for it`)]),
            ],
          ),
        );
      else
        found.push(
          statement(
            `${signer} answered to ${call}: it signed directly before it.`,
            { is: 'answered', by: signer, element: call },
            [...markOf(call, implied), UNSIGNED],
          ),
        );
      signer = null;
    } else {
      found.push(
        statement(`${call} passed it on.`, { is: 'passed on', by: call }, [
          ...markOf(call, implied),
          nameFact(call, isStation),
        ]),
      );
      signer = call;
    }
    perhaps = null;
  }
  return found;
}

/** Whose transmission arrived. */
function reached({ source, path }: Packet, heard: HeardPath, receiver: string): Statement[] {
  const facts: Fact[] = [];
  const lastUsed = path.reduce((last, hop, i) => (hop.used && !isInternetMark(hop.call) ? i : last), -1);
  const last = path[lastUsed];
  if (last) facts.push(fact('packet', `${last.call} is the last element marked as used`), H_BIT);
  else facts.push(fact('packet', 'no element of the path is marked as used'), H_BIT);
  const next = path[lastUsed + 1];
  if (next && mayHideHops(next.call) && heard.heardFrom !== null)
    facts.push(fact('supposition', `${next.call} began like this, and was not counted down without a signature`));
  else if (!heard.heardFromCertain)
    facts.push(
      heard.heardFrom !== null && last?.call !== heard.heardFrom
        ? UNSIGNED
        : fact('supposition', `${last?.call ?? source} is a station, and not a word that many answer to`),
    );
  const words =
    heard.heardFrom === null
      ? `The transmission that reached ${receiver} was that of a digipeater without name.`
      : last === undefined
        ? `The transmission that reached ${receiver} was the first one, sent under the call ${source}.`
        : `The transmission that reached ${receiver} was that of ${heard.heardFrom}.`;
  return [statement(words, { is: 'received from', station: heard.heardFrom }, facts)];
}

/** Who heard whom on the way: seldom proven by the path alone. */
function between(heard: HeardPath, source: string): Statement[] {
  const found: Statement[] = [];
  let before: string | null = source;
  for (const [i, { call }] of heard.hops.entries()) {
    if (before !== null && call !== null && before !== call)
      found.push(
        statement(`${call} heard ${before}.`, { is: 'heard', by: call, from: before }, [
          fact('packet', `they stand one behind the other`),
          i === 0 && heard.firstHearer === call
            ? fact(
                'packet',
                'what stands in front is untouched: anybody before would have marked it or counted it down',
              )
            : UNSIGNED,
        ]),
      );
    before = call;
  }
  return found;
}

function counted({ path }: Packet, heard: HeardPath): Statement[] {
  if (heard.how === 'direct') return [];
  let atLeast = 0;
  let signed = false;
  for (const hop of path) {
    const { call, implied } = hop;
    if (!isUsed(hop)) {
      signed = false;
      continue;
    }
    const generic = elementForm(call) === 'generic';
    // What is no call sign may have been used up by the one that signed before it.
    const answered: boolean = elementForm(call) !== 'station' && signed;
    if (!implied && !answered) atLeast++;
    signed = !(generic || answered || implied);
  }
  if (atLeast === 0) return [];
  const words = atLeast === 1 ? 'At least one hop was used.' : `At least ${atLeast} hops were used.`;
  return [
    statement(words, { is: 'hops', atLeast }, [
      fact('packet', 'so many elements are marked as used by hops of their own'),
      H_BIT,
    ]),
  ];
}

function internet(mark: string | null, gate: string | null, byInternet: boolean, wrapper: string | null): Statement[] {
  if (mark !== null) {
    const found = [
      statement(
        `It came by internet; ${mark} says: ${Q_CONSTRUCTS[mark] ?? 'a mark that is not known'}.`,
        { is: 'by internet', gate },
        [fact('packet', `${mark} stands in the path`)],
      ),
    ];
    if (gate !== null)
      found.push(
        statement(
          heardByRadio(mark) ? `${gate} put it there and says that it heard it by radio.` : `${gate} put it there.`,
          { is: 'by internet', gate },
          [fact('packet', `${gate} stands behind the mark`)],
        ),
      );
    return found;
  }
  return byInternet
    ? [
        statement(
          `${wrapper ?? 'It'} says that it came by internet: TCPIP stands in its path.`,
          { is: 'by internet', gate: null },
          [fact('packet', 'TCPIP stands in the path')],
        ),
      ]
    : [];
}
