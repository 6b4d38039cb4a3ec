import { acknowledgementPath, pathHops, type HeardLately } from './paths';

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

describe('the path of an acknowledgement', () => {
  it('is no longer than the way that is known to work back', () => {
    expect(acknowledgementPath(heard('direct'), USUAL)).toEqual([]);
    expect(acknowledgementPath(heard('relayed', ['QT0BR-1'], true), USUAL)).toEqual(['WIDE1-1']);
    expect(acknowledgementPath(heard('relayed', ['QT0TH-3']), USUAL)).toEqual(USUAL);
    expect(acknowledgementPath(heard('relayed', ['QT0BR-1'], true, 1), USUAL)).toEqual(USUAL);
    expect(acknowledgementPath(heard('internet'), USUAL)).toEqual(USUAL);
  });
});
