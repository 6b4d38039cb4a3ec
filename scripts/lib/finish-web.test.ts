import { runInNewContext } from 'node:vm';
import { minified, modulesCalledAtOnce } from './finish-web.mjs';

const PROGRAM = `var __d=(make,id)=>made.set(id,make);
__d(function(g,r){"use strict";return function(){return "},7,[1]);"}},7,[1]);
__d(function(){const nested=[1,2].map(function(n){return n});return nested.length},8,{"0":7,"paths":{}});
__d((()=>3),9,[]);
__r(7);`;

/** What the modules of a program give when they are called. */
function given(program: string): unknown[] {
  const made = new Map<number, () => unknown>();
  runInNewContext(program, { made, __r: () => undefined });
  return [...made.values()].map((make) => {
    const value = make();
    return typeof value === 'function' ? (value as () => unknown)() : value;
  });
}

describe('the modules of the console', () => {
  it('stand in parentheses, each whole, and give what they gave', () => {
    const ready = modulesCalledAtOnce(PROGRAM);
    expect(ready.match(/__d\(\(function/g)).toHaveLength(2);
    expect(ready).toContain('return nested.length}),8,');
    expect(ready).toContain('map(function(n)');
    expect(given(ready)).toEqual(given(PROGRAM));
    expect(given(ready)).toEqual(['},7,[1]);', 2, 3]);
  });

  it('give the same when they are small, and are found by the same names', async () => {
    const wordy = `${PROGRAM}
__d(function (global, require) { /* a remark */ var somethingLong = 20; return () => somethingLong + somethingLong / 10; }, 10, []);`;
    const small = await minified(wordy);
    expect(small.length).toBeLessThan(wordy.length);
    expect(small).not.toMatch(/remark|somethingLong/);
    expect(small).toMatch(/__d\b.*__r\(7\)/s);
    expect(given(modulesCalledAtOnce(small))).toEqual(['},7,[1]);', 2, 3, 22]);
  });

  it('stay as they are where there are none', () => {
    expect(modulesCalledAtOnce('globalThis.x=1;')).toBe('globalThis.x=1;');
    expect(modulesCalledAtOnce('')).toBe('');
  });
});
