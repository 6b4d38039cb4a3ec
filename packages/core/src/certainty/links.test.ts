import { octetsOfText } from '../octets';
import { parseMonitorLine } from '../aprs/monitor';
import { linksOf } from './links';
import { packetStatements } from './packet-statements';
import { Q_CONSTRUCTS } from './q-constructs';

const line = (text: string) => {
  const packet = parseMonitorLine(octetsOfText(text), { escapes: false });
  if (!packet.ok) throw new Error(packet.error.reason);
  return packet.value;
};
const links = (text: string, receiver: string | null = 'ME') =>
  linksOf(line(text), receiver).map(
    ({ from, by, first, certain }) => `${from}>${by}${first ? '' : ' again'}${certain ? '' : '?'}`,
  );

describe('who hears whom', () => {
  it.each([
    ['A1A>B,WIDE1-1:x', ['A1A>ME']],
    // It may have been WIDE2-2 once.
    ['A1A>B,WIDE2-1:x', ['A1A>ME?']],
    ['A1A>B,D1D*,WIDE2-1:x', ['A1A>D1D?', 'D1D>ME again?']],
    ['A1A>B,D1D*:x', ['A1A>D1D?', 'D1D>ME again']],
    ['A1A>B,D1D,WIDE1,D2D*:x', ['A1A>D1D?', 'D1D>D2D again?', 'D2D>ME again']],
    ['A1A>B,WIDE1*,WIDE2-1:x', []],
    ['A1A>B,WIDE1,D2D*:x', ['D2D>ME again']],
    // One hop or two: the first may have signed for the second element, or another used it.
    ['A1A>B,D1D,WIDE1*:x', ['A1A>D1D?', 'D1D>ME again?']],
    // Taken out of turn: what stands in front is untouched.
    ['A1A>B,WIDE1-1,D2D*:x', ['A1A>D2D?', 'D2D>ME again']],
    ['A1A>B,D1D*,qAR,G1G-10:x', ['A1A>D1D?', 'D1D>G1G-10 again?']],
    ['A1A>B,qAR,G1G-10:x', ['A1A>G1G-10?']],
    ['A1A>B,qAC,SRV:x', []],
    ['A1A>B,TCPIP*,qAC,SRV:x', []],
  ])('is told by %s', (text, expected) => {
    expect(links(text, text.includes('qA') ? null : 'ME')).toEqual(expected);
  });
  it('is proven of a digipeater that took its call out of turn in a frame', () => {
    const path = [
      { call: 'WIDE1-1', used: false },
      { call: 'D2D', used: true },
    ];
    expect(linksOf({ source: 'A1A', destination: 'B', path, info: octetsOfText('x') }, null)).toEqual([
      { from: 'A1A', by: 'D2D', first: true, certain: true },
    ]);
  });
  it('is not told by a feed that no radio brought', () => {
    expect(links('A1A>B,D1D*:x', null)).toEqual(['A1A>D1D?']);
  });
});

describe('a path in sentences', () => {
  const sentences = (text: string, certain: boolean, isStation = (_: string) => false) =>
    packetStatements(line(text), { receiver: 'us', isStation })
      .filter((one) => one.certain === certain)
      .map(({ words }) => words);
  it('keeps what is certain apart from what is inferred', () => {
    expect(sentences('A1A>B,WIDE1-1:x', true)).toEqual([
      'The transmission that reached us was the first one, sent under the call A1A.',
      'Still open: WIDE1-1.',
    ]);
    expect(sentences('A1A>B,WIDE2-1:x', false)).toEqual([
      'The transmission that reached us was the first one, sent under the call A1A.',
    ]);
    expect(sentences('A1A>B,WIDE1*,WIDE2-1:x', true)).toEqual([
      'A digipeater that did not sign passed it on: the path does not say which.',
      'The transmission that reached us was that of a digipeater without name.',
      'At least one hop was used.',
      'Still open: WIDE2-1.',
    ]);
  });
  it('rests no certainty on an inference: one hop or two', () => {
    expect(sentences('A1A>B,D1D,WIDE1*:x', true)).toEqual(['At least one hop was used.']);
    expect(sentences('A1A>B,D1D,WIDE1*:x', false)).toEqual([
      'D1D passed it on.',
      'D1D answered to WIDE1: it signed directly before it.',
      'The transmission that reached us was that of D1D.',
      'D1D heard A1A.',
    ]);
  });
  it('takes a word for a station only by its form or because it was heard as one', () => {
    expect(sentences('A1A>B,VEILRG*:x', false)).toContain('VEILRG passed it on.');
    expect(sentences('A1A>B,VEILRG*:x', true, (call) => call === 'VEILRG')).toContain('VEILRG passed it on.');
  });
  it('tells the inner road of a wrapped packet first', () => {
    const words = packetStatements(line('QT1GW-10>APRS,D9D*:}A1A>B,TCPIP,QT1GW-10*:x'), {
      receiver: 'us',
      isStation: () => false,
    }).map((one) => one.words);
    expect(words.slice(0, 2)).toEqual([
      'QT1GW-10 says that it came by internet: TCPIP stands in its path.',
      'D9D passed it on.',
    ]);
  });
  it('explains the marks of the internet side', () => {
    expect(sentences('A1A>B,D1D*,qAR,G1G-10:x', true)).toContain(
      'G1G-10 put it there and says that it heard it by radio.',
    );
    // What a gateway says of the air rests on its word.
    expect(sentences('A1A>B,D1D*,qAR,G1G-10:x', false)).toContain('D1D passed it on.');
    expect(sentences('A1A>B,TCPIP*,qAC,SRV:x', true).join(' ')).toContain('SRV put it there.');
    expect(sentences('A1A>B,TCPIP*:x', true)).toContain('It says that it came by internet: TCPIP stands in its path.');
    expect(Object.keys(Q_CONSTRUCTS).every((mark) => /^qA[A-Za-z]$/.test(mark))).toBe(true);
  });
});
