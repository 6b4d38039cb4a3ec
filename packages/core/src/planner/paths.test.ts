import { acknowledgementPath, advisePath, pathHops, type HeardLately } from './paths';

const USUAL = ['WIDE1-1', 'WIDE2-1'];
const heard = (how: HeardLately['how'], via: string[] = [], repeatsUs = false, unnamedHops = 0): HeardLately => ({
  how,
  via,
  unnamedHops,
  repeatsUs,
});

describe('path advice', () => {
  it('gives the shortest path that was seen to work in both directions', () => {
    expect(advisePath('QT1NC', heard('direct')).school).toBe('direct');
    expect(advisePath('QT1NC', heard('relayed', ['QT0BR-1'], true)).school).toBe('fill-in only');
    expect(advisePath('QT1NC', heard('relayed', ['QT0BR-1', 'QT0TH-3'], true)).school).toBe('fill-in first');
  });
  it('does not take one hop toward us for one hop from us', () => {
    const advice = advisePath('QT4LB-8', heard('relayed', ['QT0TH-3']));
    expect(advice.school).toBe('fill-in first');
    expect(advice.reason).toContain('QT0TH-3, which was not yet heard repeating us');
  });
  it('proposes the widest way to a station not heard by radio', () => {
    expect(advisePath('QT1NC', null)).toMatchObject({
      school: 'fill-in first',
      reason: expect.stringContaining('not been heard'),
    });
    expect(advisePath('QT1NC', heard('internet')).reason).toContain('by internet only');
  });
  it('counts a hop for each element and n for a wide one', () => {
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
