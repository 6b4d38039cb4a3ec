import fc from 'fast-check';
import { octetsOfLatin1 } from '../octets';
import { parseMonitorLine } from '../aprs/monitor';
import type { Packet } from '../aprs/packet';
import { explainPath, explainRoad, packetRoadInWords, pathInWords } from '../aprs/path';
import { wrappedProperly } from '../aprs/third-party';
import { linksOf } from './links';
import { packetStatements } from './packet-statements';
import { restsOnFacts } from './statement';

const WORDS = [
  'QT0BR-1',
  'QT0TH-3',
  'WIDE1-1',
  'WIDE2-1',
  'WIDE2',
  'WIDE1',
  'LOCAL',
  'TCPIP',
  'TCPXX',
  'qAR',
  'qAC',
  'qAx',
  'VEILRG',
  'MD2',
  'a',
  'QT1GW-10',
];
const word = fc.oneof(fc.constantFrom(...WORDS), fc.stringMatching(/^[A-Za-z0-9]{1,9}(-[A-Za-z0-9]{1,2})?$/));
const hop = fc.record({ call: word, used: fc.boolean() });
const header = fc
  .tuple(word, word, fc.array(fc.tuple(word, fc.constantFrom('', '', '*')), { maxLength: 10 }))
  .map(
    ([source, destination, path]) =>
      `${source}>${[destination, ...path.map(([call, star]) => call + star)].join(',')}:`,
  );
/** Up to five wrappings, the innermost of anything. */
const info = fc
  .tuple(fc.array(header, { maxLength: 5 }), fc.string({ maxLength: 20, unit: 'binary-ascii' }))
  .map(([headers, text]) => headers.map((one) => `}${one}`).join('') + text);
const packet: fc.Arbitrary<Packet> = fc.record({
  source: word,
  destination: word,
  path: fc.array(hop, { maxLength: 10 }),
  info: info.map(octetsOfLatin1),
});

describe('whatever stands in a path', () => {
  it('is explained without a throw, and no certainty rests on a supposition', () => {
    fc.assert(
      fc.property(packet, fc.boolean(), fc.option(fc.constantFrom('ME', 'us')), (one, known, receiver) => {
        const isStation = () => known;
        expect(pathInWords(explainPath(one, isStation))).not.toBe('');
        const road = explainRoad(one, isStation);
        expect(packetRoadInWords(one, isStation)).not.toMatch(/undefined|null|, *,/);
        for (const call of road.via) expect(road.hops).toContainEqual({ call, certain: true });
        if (road.how === 'internet') expect(road.heardFrom === null || one.info[0] === 0x7d).toBe(true);
        for (const statement of packetStatements(one, { receiver, isStation })) {
          expect(statement.certain).toBe(restsOnFacts(statement.facts));
          expect(statement.words).not.toMatch(/undefined|null/);
          // What a feed tells is never what we know of the air.
          if (statement.certain && statement.claim.is === 'received from') expect(receiver).not.toBeNull();
        }
        for (const { from, by } of linksOf(one, receiver)) expect(from).not.toBe(by);
        expect(typeof wrappedProperly(one)).toBe('boolean');
      }),
      { numRuns: 1000 },
    );
  });

  it('says less over a text with one star than in the frame it was', () => {
    fc.assert(
      fc.property(fc.array(hop, { maxLength: 8 }), (path) => {
        const last = path.reduce((at, { used }, i) => (used ? i : at), -1);
        const text = `A1A>B${path.map(({ call }, i) => `,${call}${i === last ? '*' : ''}`).join('')}:x`;
        const read = parseMonitorLine(octetsOfLatin1(text), { escapes: false });
        if (!read.ok) return;
        const certain = (one: Packet) =>
          packetStatements(one, { receiver: 'ME', isStation: () => false })
            .filter((statement) => statement.certain && statement.claim.is === 'passed on')
            .map(({ words }) => words);
        const frame = certain({ source: 'A1A', destination: 'B', path, info: octetsOfLatin1('x') });
        for (const words of certain(read.value)) expect(frame).toContain(words);
      }),
      {
        numRuns: 2000,
        // What may be a call or a word with a count: the text does not say whether it was used, and then it may have signed for the next.
        examples: [
          [
            [
              { call: 'A1-1', used: true },
              { call: 'LOCAL', used: true },
            ],
          ],
        ],
      },
    );
  });
});
