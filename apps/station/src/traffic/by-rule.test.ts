import { inTurn, RULE_TURN_MS } from './by-rule';

describe('the turns of a rule', () => {
  const all = Array.from({ length: 47 }, (_, n) => n);

  it('take all at once while there are few', () => {
    expect(inTurn(all.slice(0, 20), 5 * RULE_TURN_MS)).toEqual(all.slice(0, 20));
    expect(inTurn([], 0)).toEqual([]);
  });

  it('come to everybody, though nothing can be done for those before them', () => {
    const taken = Array.from({ length: 3 }, (_, turn) => inTurn(all, turn * RULE_TURN_MS));
    for (const turn of taken) expect(new Set(turn).size).toBe(20);
    expect(new Set(taken.flat()).size).toBe(all.length);
  });

  it('are the same for two processes in the same minute', () => {
    expect(inTurn(all, 7 * RULE_TURN_MS + 59_000)).toEqual(inTurn(all, 7 * RULE_TURN_MS));
  });
});
