import { octetsOfText } from '../octets';
import { parseMonitorLine } from '../aprs/monitor';
import type { Packet } from '../aprs/packet';
import { packetStatements } from './packet-statements';
import { restsOnFacts, type Claim, type Statement } from './statement';
import { allHistories, asText, behaviours, travel, type Digipeater, type History } from './testing/chains';

type Rule = (packet: Packet, isStation: (call: string) => boolean) => Statement[];
const ours: Rule = (packet, isStation) => packetStatements(packet, { receiver: 'ME', isStation });
const never = () => false;

const frameOf = ({ source, elements }: History): Packet => ({
  source,
  destination: 'APRS',
  path: elements.map(({ word, h }) => ({ call: word, used: h })),
  info: octetsOfText('x'),
});
function textOf(history: History): Packet {
  const packet = parseMonitorLine(octetsOfText(asText(history)), { escapes: false });
  if (!packet.ok) throw new Error(packet.error.reason);
  return packet.value;
}

/** Whether a claim is what happened. */
function holds(claim: Claim, { source, transmitted, elements }: History): boolean {
  const order = [source, ...transmitted.map(({ call }) => call)];
  const last = transmitted.at(-1);
  switch (claim.is) {
    case 'passed on':
      return transmitted.some(({ call, signed }) => (claim.by === null ? !signed : call === claim.by));
    case 'received from':
      return claim.station === null ? last !== undefined && !last.signed : order.at(-1) === claim.station;
    case 'heard':
      return order.some((call, i) => call === claim.from && order[i + 1] === claim.by);
    case 'hops':
      return transmitted.length >= claim.atLeast;
    case 'still open':
      return claim.elements.every((word) => elements.some((element) => element.word === word && !element.h));
    case 'answered':
      return transmitted.some(({ call, signed }) => signed && call === claim.by);
    case 'by internet':
      return false;
  }
}

/** Statements marked certain that are not so. */
const falseClaims = (rule: Rule, histories: readonly History[], isStation: (call: string) => boolean = never) => {
  let compared = 0;
  const wrong: string[] = [];
  for (const history of histories)
    for (const packet of [frameOf(history), textOf(history)])
      for (const { certain, claim, words } of rule(packet, isStation)) {
        if (!certain) continue;
        compared++;
        if (!holds(claim, history))
          wrong.push(`${asText(history)} – ${words} – ${JSON.stringify(history.transmitted)}`);
      }
  return { compared, wrong };
};

/** A small generator with a seed (mulberry32, public domain). */
function randomOf(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const CALLS = ['QT0BR-1', 'QT0TH-3', 'QT9SA', 'QT4XD', 'QT8PR', 'VEILRG'];
const WORDS = [
  ...CALLS,
  'WIDE1-1',
  'WIDE2-1',
  'WIDE2-2',
  'WIDE3-3',
  'WIDE7-7',
  'TRACE3-3',
  'MD2-2',
  'RELAY',
  'LOCAL',
  'TEMP1',
];

function randomHistories(seed: number, count: number): History[] {
  const random = randomOf(seed);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!;
  const serves: Digipeater['serves'][] = [
    ['fill-in'],
    ['wide'],
    ['wide', 'fill-in'],
    ['fill-in', 'plain'],
    ['wide', 'plain'],
  ];
  return Array.from({ length: count }, () => {
    const asked = Array.from({ length: Math.floor(random() * 5) }, () => pick(WORDS));
    const order = [...CALLS].sort(() => random() - 0.5);
    const digipeaters = order.map((call) => ({ ...pick(behaviours(call)), serves: pick(serves) }));
    return travel('QT2AR-7', asked, digipeaters.slice(0, Math.floor(random() * (CALLS.length + 1))));
  });
}

describe('what is marked certain of a path', () => {
  const random = randomHistories(20_261_126, 12_000);

  it('is what happened, over 12 000 seeded chains of digipeaters of every behaviour', () => {
    for (const isStation of [never, (call: string) => call === 'VEILRG']) {
      const { compared, wrong } = falseClaims(ours, random, isStation);
      expect(wrong.slice(0, 5)).toEqual([]);
      expect(compared).toBeGreaterThan(30_000);
    }
  });

  it('would be found out if a false rule were planted', () => {
    // Each takes for proven what is only usual.
    const planted: Rule[] = [
      (packet, isStation) =>
        ours({ ...packet, path: packet.path.map(({ call, used }) => ({ call, used })) }, isStation),
      (packet, isStation) =>
        ours(packet, isStation).map((one) => ({ ...one, certain: one.certain || one.claim.is === 'heard' })),
      (packet, isStation) =>
        ours(packet, isStation).map((one) => ({ ...one, certain: one.certain || one.claim.is === 'received from' })),
      (packet, isStation) =>
        ours(packet, isStation).map((one) =>
          one.claim.is === 'hops'
            ? { ...one, claim: { is: 'hops', atLeast: packet.path.filter((hop) => hop.used).length } }
            : one,
        ),
      (packet) => ours(packet, () => true),
    ];
    for (const rule of planted) expect(falseClaims(rule, random).wrong.length).toBeGreaterThan(0);
  });

  it('is nearly all that the packet determines, told by every history that leads to it', () => {
    // Two that no path names, so that whoever did not sign could be either.
    const others = ['QT9SA', 'QT4XD'];
    const calls = ['QT0BR-1', 'QT0TH-3', ...others];
    const most = 4;
    const histories = allHistories(
      'QT2AR-7',
      calls,
      ['QT0BR-1', 'QT0TH-3', 'WIDE1-1', 'WIDE2-1', 'WIDE2-2', 'RELAY'],
      3,
    );
    expect(histories.length).toBeGreaterThan(10_000);
    let determined = 0;
    let told = 0;
    const missed = new Map<string, string>();
    for (const form of [frameOf, textOf]) {
      const groups = new Map<string, { packet: Packet; histories: History[] }>();
      for (const history of histories) {
        const packet = form(history);
        const key = JSON.stringify(packet.path);
        const group = groups.get(key) ?? { packet, histories: [] };
        group.histories.push(history);
        groups.set(key, group);
      }
      for (const { packet, histories: group } of groups.values()) {
        // Where the world is too small – a longer path or history, or the call of another, might lead there as well – what it
        // seems to determine is not known.
        const { path } = packet;
        if (path.length > 3 || path.some(({ call }) => others.includes(call))) continue;
        if (group.some(({ transmitted }) => transmitted.length === most)) continue;
        const certain = ours(packet, never).filter((one) => one.certain);
        for (const { claim, words } of certain)
          for (const history of group) if (!holds(claim, history)) throw new Error(`${asText(history)}: ${words}`);
        const said = new Set(certain.map(({ claim }) => JSON.stringify(claim)));
        const hops = Math.min(...group.map(({ transmitted }) => transmitted.length));
        const candidates: Claim[] = [
          ...[...calls, null].map((by): Claim => ({ is: 'passed on', by })),
          ...['QT2AR-7', ...calls, null].map((station): Claim => ({ is: 'received from', station })),
          ...['QT2AR-7', ...calls].flatMap((from) => calls.map((by): Claim => ({ is: 'heard', by, from }))),
          ...(hops > 0 ? [{ is: 'hops', atLeast: hops } as const] : []),
        ];
        for (const claim of candidates) {
          // A text keeps one star: of what stands before it nothing is called certain, though some monitors would let us.
          if (form === textOf && claim.is !== 'received from' && !(claim.is === 'hops' && claim.atLeast === 1)) {
            if (claim.is !== 'passed on' || path.find(({ used, implied }) => used && !implied)?.call !== claim.by)
              continue;
          }
          if (!group.every((history) => holds(claim, history))) continue;
          determined++;
          if (said.has(JSON.stringify(claim))) told++;
          else missed.set(`${form.name} ${claim.is}`, `${asText(group[0]!)} ${JSON.stringify(claim)}`);
        }
      }
    }
    expect(determined).toBeGreaterThan(1000);
    // Nothing is gained by saying nothing.
    expect({ share: told / determined > 0.9, missed: told / determined > 0.9 ? [] : [...missed] }).toEqual({
      share: true,
      missed: [],
    });
  });

  it('rests on something, and on no supposition', () => {
    expect(restsOnFacts([])).toBe(false);
    expect(restsOnFacts([{ from: 'packet', words: 'x' }])).toBe(true);
    expect(
      restsOnFacts([
        { from: 'packet', words: 'x' },
        { from: 'supposition', words: 'y' },
      ]),
    ).toBe(false);
    for (const history of random.slice(0, 500))
      for (const one of ours(frameOf(history), never)) expect(one.certain).toBe(restsOnFacts(one.facts));
  });
});
