import { besideOf, besideText, EVERYBODY, MOST_KEPT, useKeptPlans } from './kept-plans';
import { planText } from './plan';
import { linesOf, type PlanTold } from './plan-lines';

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

describe('kept plans of all ways', () => {
  it('are what is thought off, and no change of a net; a net has none of theirs', () => {
    stored([
      { name: 'Storm', plan: 'mesh-1,the internet', mesh: EVERYBODY },
      { name: 'Nothing', plan: '', mesh: EVERYBODY },
      { name: 'Of a net', plan: 'mesh-1', mesh: '' },
    ]);
    void useKeptPlans.persist.rehydrate();
    expect(names()).toEqual(['Storm']);
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
    const row = (id: string, chance: number, cutOff = false) => ({ id, title: `${id} there`, chance, cutOff });
    const told = (counts: readonly number[], ...rows: PlanTold['rows']) => ({ counts, rows });
    const columns = [
      { title: 'As it is', told: told([2, 2], row('QT1NC', 0.8), row('QT6CL', 0.9)) },
      { title: 'Off', told: told([1, 0], row('QT6CL', 0, true), row('QT1NC', 0.7), row('NEW-1', 0.5)) },
      { title: 'Later', told: null },
    ];
    expect(
      linesOf(['Hear more than half', 'Hang on one alone'], columns).map(({ title, cells, cutOff }) => [
        title,
        cells.join(' '),
        cutOff,
      ]),
    ).toEqual([
      ['Hear more than half', '2 1 …', [false, false, false]],
      ['Hang on one alone', '2 0 …', [false, false, false]],
      ['QT6CL there', '90 0 …', [false, true, false]],
      ['QT1NC there', '80 70 …', [false, false, false]],
      ['NEW-1 there', '… 50 …', [false, false, false]],
    ]);
    expect(linesOf(['One', 'Other'], [{ title: 'Off', told: null }])).toHaveLength(2);
  });
});
