import { besideOf, besideText, MOST_KEPT, useKeptPlans } from './kept-plans';
import { planText } from './plan';
import { linesOf } from './plan-table';

const keptAs = (name: string, mesh = '') => ({ name, plan: off, mesh });
const off = planText([{ what: 'off', call: 'QT0TH-3' }]);
const stored = (plans: unknown) =>
  localStorage.setItem('tombolo-plans', JSON.stringify({ state: { plans }, version: 0 }));
const names = () => useKeptPlans.getState().plans.map(({ name }) => name);

beforeEach(() => {
  localStorage.clear();
  useKeptPlans.setState({ plans: [] });
});

describe('kept plans', () => {
  it('keep one by each name, the latest last, and no more than so many', () => {
    const { keep } = useKeptPlans.getState();
    for (let n = 0; n < MOST_KEPT + 2; n++) keep(keptAs(`Plan ${n}`));
    keep(keptAs('Plan 5'));
    expect(names()).toHaveLength(MOST_KEPT);
    expect(names()[0]).toBe('Plan 2');
    expect(names().at(-1)).toBe('Plan 5');
  });

  it('keep those of each net apart', () => {
    const { keep, remove } = useKeptPlans.getState();
    for (const mesh of ['', 'one', 'other']) keep(keptAs('Winter', mesh));
    expect(useKeptPlans.getState().plans.map(({ mesh }) => mesh)).toEqual(['', 'one', 'other']);
    remove(keptAs('Winter', 'one'));
    expect(useKeptPlans.getState().plans.map(({ mesh }) => mesh)).toEqual(['', 'other']);
  });

  it('know what another tab kept meanwhile', () => {
    stored([{ name: 'Of the other tab', plan: off }]);
    useKeptPlans.getState().keep(keptAs('Of this one'));
    expect(names()).toEqual(['Of the other tab', 'Of this one']);
  });

  it('lose none to one that cannot be read', () => {
    stored([{ name: 'Whole', plan: off }, { name: 'Broken', plan: '[{"what":"of' }, { name: '', plan: off }, null]);
    void useKeptPlans.persist.rehydrate();
    expect(names()).toEqual(['Whole']);
    stored('nothing of the kind');
    void useKeptPlans.persist.rehydrate();
    expect(names()).toEqual([]);
  });
});

describe('plans beside each other', () => {
  it('stand in an address and come back from it; what was tampered with is none', () => {
    expect(besideOf(besideText(['Winter mast', 'A "quoted" one']))).toEqual(['Winter mast', 'A "quoted" one']);
    expect(besideText([])).toBe('');
    for (const text of ['', 'x', '{}', '[1]', '["a","b","c","d"]', JSON.stringify(['x'.repeat(41)])])
      expect(besideOf(text)).toEqual([]);
    expect(besideOf('["a","a"]')).toEqual(['a']);
  });

  it('are told line by line, the greatest difference first, and what is not reckoned yet as such', () => {
    const row = (call: string, after: number, verdict: 'as before' | 'cut off' = 'as before') =>
      ({ call, before: 0.9, after, verdict }) as const;
    const hanging = [
      { without: 'QT0TH-3', cutOff: ['QT6CL', 'QT1NC'] },
      { without: 'QT0BR-1', cutOff: ['QT6CL'] },
    ];
    const columns = [
      { title: 'As it is', outcome: { rows: [row('QT1NC', 0.8), row('QT6CL', 0.9)], hanging } },
      { title: 'Off', outcome: { rows: [row('QT6CL', 0, 'cut off'), row('QT1NC', 0.7)], hanging: [] } },
      { title: 'Later', outcome: null },
    ];
    expect(
      linesOf(columns, (call) => call).map(({ title, cells, cutOff }) => [title, cells.join(' '), cutOff]),
    ).toEqual([
      ['Hear more than half', '2 1 …', [false, false, false]],
      ['Hang on one alone', '2 0 …', [false, false, false]],
      ['QT6CL', '90 0 …', [false, true, false]],
      ['QT1NC', '80 70 …', [false, false, false]],
    ]);
    expect(linesOf([{ title: 'Off', outcome: null }], (call) => call)).toHaveLength(2);
  });
});
