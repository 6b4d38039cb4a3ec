import { repeatsIn } from './own-repeats';

const NOW = Date.parse('2026-05-14T12:00:00Z');
const sent = (first: string, by: readonly string[] = []) => ({ first, at: new Date(NOW - 60_000), by });

describe('what became of our own packets at their first hop', () => {
  it('tells of what an element asks for, however often it may be repeated', () => {
    const { sent: asked, repeated } = repeatsIn(
      [sent('WIDE2-2', ['QT0TH-3']), sent('WIDE2-1'), sent('WIDE1-1', ['QT0BR-1', 'QT0TH-3'])],
      NOW,
    );
    expect([...asked].map(([element, { count }]) => [element, count])).toEqual([
      ['WIDE2', 2],
      ['WIDE1', 1],
    ]);
    expect([...repeated.keys()]).toEqual(['WIDE2/QT0TH-3', 'WIDE1/QT0BR-1', 'WIDE1/QT0TH-3']);
  });

  it('keeps apart those that are asked by name', () => {
    expect([...repeatsIn([sent('QT0BR-1'), sent('QT0BR-2')], NOW).sent.keys()]).toEqual(['QT0BR-1', 'QT0BR-2']);
  });
});
