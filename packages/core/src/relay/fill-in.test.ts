import fc from 'fast-check';
import type { Hop } from '../aprs/packet';
import { fillInAdvice, fillInPath } from './fill-in';

const hops = (text: string): Hop[] =>
  text === '' ? [] : text.split(',').map((call) => ({ call: call.replace('*', ''), used: call.endsWith('*') }));
const words = (path: readonly Hop[] | null) =>
  path?.map(({ call, used }) => `${call}${used ? '*' : ''}`).join() ?? null;
const repeated = (path: string, source = 'QT3TK-14') => words(fillInPath({ source, path: hops(path) }, 'QT2AR-7'));

describe('a fill-in digipeater', () => {
  // What is written here is common practice, and the H bit of AX.25 v2.2; there is no table to compare with.
  it.each([
    ['WIDE1-1,WIDE2-1', 'QT2AR-7*,WIDE2-1'],
    ['WIDE1-1', 'QT2AR-7*'],
    ['QT2AR-7,WIDE2-1', 'QT2AR-7*,WIDE2-1'],
    ['QT0BR-1*,WIDE1-1', 'QT0BR-1*,QT2AR-7*'],
  ])('repeats %s as %s', (path, after) => expect(repeated(path)).toBe(after));

  it.each([
    '',
    'WIDE2-2',
    'WIDE2-1,WIDE1-1',
    'WIDE1-1*,WIDE2-1',
    'WIDE1,WIDE2-1',
    'QT0BR-1',
    'QT2AR-7*,WIDE1-1',
    'WIDE1-2',
  ])('leaves %j alone', (path) => expect(repeated(path)).toBeNull());

  it('never repeats what is its own, nor anything twice', () => {
    expect(repeated('WIDE1-1', 'QT2AR-7')).toBeNull();
    const call = fc.constantFrom('WIDE1-1', 'WIDE2-1', 'WIDE2-2', 'QT0BR-1', 'QT2AR-7', 'TRACE3-3');
    fc.assert(
      fc.property(fc.array(fc.record({ call, used: fc.boolean() }), { maxLength: 8 }), (path) => {
        const once = fillInPath({ source: 'QT3TK-14', path }, 'QT2AR-7');
        if (!once) return;
        expect(once).toHaveLength(path.length);
        expect(fillInPath({ source: 'QT3TK-14', path: once }, 'QT2AR-7')).toBeNull();
      }),
    );
  });
});

describe('whether repeating would help', () => {
  const edge = (from: string, by: string) => ({ from, by });
  it('is said by who is heard here and by no digipeater', () => {
    expect(
      fillInAdvice(
        ['QT3TK-14', 'QT4LB-8', 'QT7SH-5', 'QT2AR-7'],
        [edge('QT4LB-8', 'QT0TH-3'), edge('QT3TK-14', 'QT2AR-7')],
        'QT2AR-7',
      ),
    ).toEqual({ verdict: 'helps', unheard: ['QT3TK-14', 'QT7SH-5'], served: ['QT4LB-8'] });
  });
  it('is not said of too few, and that it would only load the channel where all are served', () => {
    expect(fillInAdvice(['QT3TK-14'], [], 'QT2AR-7').verdict).toBe('unknown');
    const all = ['QT3TK-14', 'QT4LB-8', 'QT7SH-5'];
    expect(
      fillInAdvice(
        all,
        all.map((call) => edge(call, 'QT0BR-1')),
        'QT2AR-7',
      ).verdict,
    ).toBe('loads');
  });
});
