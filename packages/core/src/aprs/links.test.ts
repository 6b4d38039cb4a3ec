import { octetsOfText } from '../octets';
import { linksOf, Q_CONSTRUCTS, reportPath } from './links';
import { parseMonitorLine } from './monitor';
import { inDirectRange, voiceAlertCall } from './voice-alert';

const line = (text: string) => {
  const packet = parseMonitorLine(octetsOfText(text), { escapes: false });
  if (!packet.ok) throw new Error(packet.error.reason);
  return packet.value;
};
const links = (text: string, receiver: string | null = 'ME') =>
  linksOf(line(text), receiver).map(({ from, by, first }) => `${from}>${by}${first ? '' : ' again'}`);

describe('who hears whom', () => {
  it.each([
    ['A1A>B,WIDE1-1:x', ['A1A>ME']],
    ['A1A>B,D1D*,WIDE2-1:x', ['A1A>D1D', 'D1D>ME again']],
    ['A1A>B,D1D,WIDE1,D2D*:x', ['A1A>D1D', 'D1D>D2D again', 'D2D>ME again']],
    ['A1A>B,WIDE1*,WIDE2-1:x', []],
    ['A1A>B,WIDE1,D2D*:x', ['D2D>ME again']],
    ['A1A>B,D1D*,qAR,G1G-10:x', ['A1A>D1D', 'D1D>G1G-10 again']],
    ['A1A>B,qAR,G1G-10:x', ['A1A>G1G-10']],
    ['A1A>B,qAC,SRV:x', []],
    ['A1A>B,TCPIP*,qAC,SRV:x', []],
  ])('is proven by %s', (text, expected) => {
    expect(links(text, text.includes('qA') ? null : 'ME')).toEqual(expected);
  });
  it('is not told by a feed that no radio brought', () => {
    expect(links('A1A>B,D1D*:x', null)).toEqual(['A1A>D1D']);
  });
});

describe('a path in sentences', () => {
  const report = (text: string) => reportPath(line(text));
  it('keeps what is certain apart from what is inferred', () => {
    const direct = report('A1A>B,WIDE1-1:x');
    expect(direct.certain).toEqual(['No element of the path is marked as used.', 'Not used: WIDE1-1.']);
    expect(direct.inferred[0]).toContain('unless a digipeater repeated it without leaving a mark');

    const unsigned = report('A1A>B,WIDE1*,WIDE2-1:x');
    expect(unsigned.inferred).toEqual(['A digipeater that did not sign passed it on: the path does not say which.']);
    expect(unsigned.certain).toContain('The transmission that reached us was that of a digipeater without name.');
  });
  it('does not claim to know which of two answered to an alias', () => {
    const two = report('A1A>B,D1D,D2D,WIDE2*:x');
    expect(two.certain).toContain('D2D heard D1D and passed it on.');
    expect(two.inferred).toContain(
      'Which of D1D and D2D answered to WIDE2 the path does not say; usually the last one.',
    );
    expect(report('A1A>B,D1D,WIDE1*:x').inferred).toContain('D1D answered to WIDE1: it signed directly before it.');
  });
  it('explains the marks of the internet side', () => {
    expect(report('A1A>B,D1D*,qAR,G1G-10:x').certain).toContain('G1G-10 put it there, having heard it by radio.');
    expect(report('A1A>B,TCPIP*,qAC,SRV:x').certain.join(' ')).toContain('SRV put it there.');
    expect(report('A1A>B,TCPIP*:x').certain).toContain('It came by internet: TCPIP stands in its path.');
    expect(Object.keys(Q_CONSTRUCTS).every((mark) => /^qA[A-Za-z]$/.test(mark))).toBe(true);
  });
});

describe('direct-range calling', () => {
  it('lists who was heard direct within the hour and may sit there, the nearest first', () => {
    const now = 10_000_000;
    const station = (call: string, directAtMs: number | null, distanceKm: number | null, attended = true) => ({
      call,
      directAtMs,
      distanceKm,
      attended,
    });
    const all = [
      station('FAR', now - 1000, 20),
      station('OLD', now - 3_600_001, 1),
      station('NEAR', now - 3_600_000, 2),
      station('NEVER', null, 1),
      station('DIGI', now, 1, false),
      station('UNKNOWN', now, null),
    ];
    expect(inDirectRange(all, now).map(({ call }) => call)).toEqual(['NEAR', 'FAR', 'UNKNOWN']);
    expect(voiceAlertCall('QT2AR-7', 146.52)).toBe('QT2AR-7, voice alert, listening on 146.520');
  });
});
