import { octetsOfText } from '../octets';
import { parseMonitorLine } from '../aprs/monitor';
import { explainPath } from '../aprs/path';
import { acknowledgementPath, hopsAskedFor, pathHops, type HeardLately } from './paths';

const USUAL = ['WIDE1-1', 'WIDE2-1'];
const heard = (how: HeardLately['how'], via: string[] = [], repeatsUs = false, unnamedHops = 0): HeardLately => ({
  how,
  via,
  unnamedHops,
  repeatsUs,
});

describe('the hops of a path', () => {
  it('are one for each element and n for a wide one', () => {
    expect(pathHops(['WIDE1-1', 'WIDE2-2', 'QT0BR-1'])).toBe(4);
  });
});

describe('the hops that a sender asked for', () => {
  // The forms in which digipeaters leave a path behind are those of the WIDEn-N addendum to the Protocol Reference (1.1).
  it.each([
    ['', 0],
    ['WIDE1-1,WIDE2-1', 2],
    ['QT0TH-3*,WIDE2-1', 2],
    ['QT0TH-3,WIDE1*,WIDE2-1', 2],
    ['QT0TH-3,WIDE1*,QT0BR-1,WIDE2*', 2],
    ['QT0TH-3*,WIDE2-1,QT0BR-1', 3],
    ['WIDE2-2', 2],
    ['QT0BR-1*', 1],
  ])('are the same wherever on its road it is heard: %s', (path, hops) => {
    const packet = parseMonitorLine(octetsOfText(`QT6CL>APZ000${path === '' ? '' : `,${path}`}:>there`), {
      escapes: false,
    });
    expect(packet.ok && hopsAskedFor(explainPath(packet.value))).toBe(hops);
  });
});

describe('the path of an acknowledgement', () => {
  it('is no longer than the way that is known to work back', () => {
    expect(acknowledgementPath(heard('direct'), USUAL)).toEqual([]);
    expect(acknowledgementPath(heard('relayed', ['QT0BR-1'], true), USUAL)).toEqual(['WIDE1-1']);
    expect(acknowledgementPath(heard('relayed', ['QT0TH-3']), USUAL)).toEqual(USUAL);
    expect(acknowledgementPath(heard('relayed', ['QT0BR-1'], true, 1), USUAL)).toEqual(USUAL);
    expect(acknowledgementPath(heard('internet'), USUAL)).toEqual(USUAL);
  });

  it('is not longer than what was set, nor another where somebody made one of their own', () => {
    const near = heard('relayed', ['QT0BR-1'], true);
    expect(acknowledgementPath(near, [])).toEqual([]);
    expect(acknowledgementPath(near, ['QT0TH-3'])).toEqual(['QT0TH-3']);
    expect(acknowledgementPath(heard('direct'), ['QT0TH-3'])).toEqual([]);
  });
});
