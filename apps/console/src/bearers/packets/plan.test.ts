import { blankDraft, viewOf, type DraftView } from '../../drafts/draft';
import { pathElements, planText } from './plan';
import { lengthWords } from './radio-text';

const transmitter = { txDelayMs: 300, frequencyHz: 144_800_000 };
const draft = (change: Partial<DraftView>): DraftView => ({
  ...viewOf(blankDraft('one', 0)),
  addressee: 'QT4LB-8',
  body: 'Fuel low',
  school: 'fill-in first',
  ...change,
});
const plan = (change: Partial<DraftView>) => planText(draft(change), transmitter, 'QT2AR-7', []);

describe('what a text costs', () => {
  it('is counted in octets, not in letters', () => {
    expect(plan({ body: 'Fähre' }).octets).toBe(6);
    expect(plan({ body: 'x'.repeat(68) }).textProblem).toMatch(/68 of 67/);
  });
  it('grows with every hop that the path allows', () => {
    const direct = plan({ school: 'direct' });
    const two = plan({ school: 'fill-in first' });
    expect(direct.channelTimeS).toBe(direct.airTimeS);
    expect(two.channelTimeS).toBeCloseTo(two.airTimeS! * 3, 9);
    // Common practice: a full text over two path elements takes about a second at 1200 Bd with a delay of 300 ms.
    expect(plan({ body: 'x'.repeat(67) }).airTimeS).toBeCloseTo(1.1, 0);
  });
  it('is said in one line, and nothing is said of a text that cannot go', () => {
    expect(lengthWords(8, 0.68, 2.04)).toBe(
      '8 of 67 characters · 0.68 s on the air, 2.0 s of the channel if one repeats it at each hop',
    );
    expect(lengthWords(8, 0.68, 0.68)).toBe('8 of 67 characters · 0.68 s on the air');
    expect(lengthWords(70, null, null)).toBe('70 of 67 characters');
  });
});

describe('the path', () => {
  const proposed = [
    {
      to: 'QT4LB-8',
      school: 'fill-in only' as const,
      reason: 'By packet radio: about 80 of 100 arrive.',
      arrives: 0.8,
      shown: true,
      times: 4,
    },
    {
      to: 'QT5WX-13',
      school: 'direct' as const,
      reason: 'By packet radio: about 20 of 100 arrive.',
      arrives: 0.2,
      shown: false,
      times: 2,
    },
  ];
  const advised = (change: Partial<DraftView>) =>
    planText(draft({ school: 'advised', ...change }), transmitter, 'QT2AR-7', proposed);
  it('is the one of the way that is reckoned, until another is chosen', () => {
    expect(advised({})).toMatchObject({ school: 'fill-in only', path: ['WIDE1-1'] });
    expect(advised({ school: 'direct' })).toMatchObject({ school: 'direct', path: [] });
  });
  it('goes as often as was reckoned for it, and not for another one; what is only believed is not taken unasked', () => {
    expect(advised({}).times).toBe(4);
    expect(advised({}).buttonWords).toMatch(/ask for acknowledgement, up to 4 times$/);
    expect(advised({ school: 'direct' }).times).toBeNull();
    expect(advised({ askAcknowledgement: false })).toMatchObject({ times: null });
    expect(advised({ addressee: 'QT5WX-13' })).toMatchObject({ school: 'fill-in first', times: null });
    expect(advised({ addressee: 'QT5WX-13', school: 'direct' }).times).toBe(2);
  });
  it('is the widest of the usual ones for whom no other has shown that it works, and says so', () => {
    expect(advised({ addressee: 'QT1NC' })).toMatchObject({
      school: 'fill-in first',
      hints: { 'fill-in first': expect.stringContaining('as long as no narrower one has shown') },
    });
    expect(advised({ addressee: '' }).hints['fill-in first']).toContain('whom it is for');
  });
  it('is called proposed only where it has shown that it works; of others is told how they were reckoned', () => {
    expect(advised({}).hints['fill-in only']).toBe(`Proposed. ${proposed[0]!.reason}`);
    const { hints } = advised({ addressee: 'QT5WX-13' });
    expect(hints['fill-in first']).toMatch(/^Taken where nothing is chosen\. The widest/);
    expect(hints.direct).toMatch(/^No digipeater\. .* About 20 of 100 arrive\.$/);
    expect(Object.values(hints).join()).not.toContain('Proposed');
  });
});

describe('the button', () => {
  it('says exactly what will happen', () => {
    expect(plan({}).buttonWords).toBe(
      'Send by 144.800 MHz over a fill-in and one more digipeater, ask for acknowledgement',
    );
    expect(plan({ school: 'direct', askAcknowledgement: false }).buttonWords).toBe(
      'Send by 144.800 MHz direct, without a digipeater, no acknowledgement',
    );
  });
  it('is held by a path that no frame can carry', () => {
    expect(plan({ school: 'own', ownPath: 'WIDE9-99' }).pathProblem).not.toBeNull();
    expect(plan({ school: 'own', ownPath: 'QT0BR-1 wide2-1' })).toMatchObject({
      path: ['QT0BR-1', 'WIDE2-1'],
      pathProblem: null,
    });
    expect(pathElements(' ,QT0BR-1,, WIDE2-1 ')).toEqual(['QT0BR-1', 'WIDE2-1']);
  });
});
