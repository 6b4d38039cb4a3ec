import sequencer from '@jest/test-sequencer';

/**
 * On a fresh machine nothing tells how long a file of tests takes but its size, and what waits for the air or kills processes is short to read.
 * The long ones are spread over the first part, so that others run beside each, and none is left to run by itself at the end.
 */
const LONG = [
  'e2e/',
  'src/killed.test.ts',
  'src/first-road.test.ts',
  'sessions/sessions.test.ts',
  'bearers/hand-over.test.ts',
  'parts/parts.test.ts',
  'transmissions/at-the-key.test.ts',
  'traffic/other-bearer.test.ts',
  'own/auto-answer.test.ts',
  'backup/backup.test.ts',
];
/** Of all others so many go between two long ones. */
const BETWEEN = 8;

const isLong = ({ path }) => LONG.some((part) => path.includes(part));

export default class LongFirst extends sequencer.default {
  sort(tests) {
    const all = super.sort(tests);
    const others = all.filter((test) => !isLong(test));
    const spread = all.filter(isLong).flatMap((test, n) => [test, ...others.slice(n * BETWEEN, (n + 1) * BETWEEN)]);
    return [...spread, ...others.filter((test) => !spread.includes(test))];
  }
}
