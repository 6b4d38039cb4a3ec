import { seeded } from '@tombolo/core';
import { labelsOf, type Marked } from './net-labels';

const PICTURE = { width: 400, height: 300 };
const LETTERS = { width: 7, height: 12 };
const mark = (key: string, x: number, y: number, text = 'QT2AR-7'): Marked => ({ key, x, y, text });
const anchors = (...marks: Marked[]) =>
  marks.map(({ key }) => labelsOf(marks, PICTURE, LETTERS).get(key)?.anchor ?? null);

describe('the names in the picture of a net', () => {
  it('stand to the right, and to the left where the picture ends', () => {
    expect(anchors(mark('a', 100, 100))).toEqual(['start']);
    expect(anchors(mark('a', 390, 100))).toEqual(['end']);
    // No room on either side.
    expect(labelsOf([mark('a', 30, 20)], { width: 60, height: 60 }, LETTERS).get('a')).toEqual({
      x: 30,
      y: 11,
      anchor: 'middle',
    });
  });

  it('give way to marks and names that stand before them', () => {
    // Whoever stands to the right takes the room there.
    expect(anchors(mark('a', 100, 100), mark('b', 125, 100))).toEqual(['end', 'start']);
    expect(anchors(mark('a', 100, 100), mark('b', 125, 100), mark('c', 75, 100))[0]).toBe('middle');
    // Four on one place and beside each other: the last has no room left.
    const crowd = Array.from({ length: 6 }, (_, n) => mark(`m${n}`, 100 + n, 100));
    expect(anchors(...crowd).filter((anchor) => anchor === null).length).toBeGreaterThan(0);
  });

  it('never cover each other, another mark or the edge, however many there are', () => {
    const random = seeded(7);
    const marks = Array.from({ length: 120 }, (_, n) => mark(`m${n}`, random() * 400, random() * 300, `N${n}`));
    const labels = labelsOf(marks, PICTURE, LETTERS);
    expect(labels.size).toBeGreaterThan(20);
    const boxes = [...labels].map(([key, { x, y, anchor }]) => {
      const wide = 7 * marks.find((one) => one.key === key)!.text.length;
      const left = anchor === 'start' ? x : anchor === 'end' ? x - wide : x - wide / 2;
      return { key, left, right: left + wide, top: y - 10, bottom: y + 2 };
    });
    for (const [n, a] of boxes.entries()) {
      expect(Math.min(a.left, a.top)).toBeGreaterThanOrEqual(0);
      expect(a.right).toBeLessThanOrEqual(400);
      expect(a.bottom).toBeLessThanOrEqual(300);
      for (const b of boxes.slice(n + 1))
        expect(a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom).toBe(false);
      for (const { key, x, y } of marks)
        if (key !== a.key) expect(x > a.left && x < a.right && y > a.top && y < a.bottom).toBe(false);
    }
  });
});
