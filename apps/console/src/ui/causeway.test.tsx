import { screen } from '@testing-library/react';
import type { Causeway as Road, StripState } from '@tombolo/core';
import { renderPiece } from '../testing/render';
import { Causeway, placeLabels } from './causeway';

const road = (...states: StripState[]): Road => ({
  stones: ['QT2AR-7', ...states.map((_, i) => `QT${i}XX`)].map((label) => ({ label, known: true })),
  strips: states.map((state) => ({ state, evidence: [], inferred: false })),
});

/** What is drawn, apart from colours: the kinds of shapes and their outlines. */
const shapesOf = (states: StripState[]): string => {
  const { container, unmount } = renderPiece(<Causeway road={road(...states)} width={200} />);
  const shapes = [...container.querySelectorAll('svg circle, svg line, svg rect, svg path')]
    .map((shape) => `${shape.tagName}/${shape.getAttribute('stroke-width') ?? '-'}/${shape.getAttribute('rx') ?? '-'}`)
    .join(' ');
  unmount();
  return shapes;
};

describe('the causeway', () => {
  it('says in words what it shows', () => {
    renderPiece(<Causeway road={road('acknowledged', 'heard', 'planned', 'left')} width={300} large />);
    const picture = screen.getByRole('img');
    expect(picture).toHaveAccessibleName(
      'QT2AR-7 to QT0XX: acknowledged from beyond; QT0XX to QT1XX: heard repeated; QT1XX to QT2XX: planned; QT2XX to QT3XX: nothing heard of it',
    );
  });

  it('draws each state in a shape of its own, so that it reads without colour', () => {
    const states: StripState[] = ['planned', 'sent', 'heard', 'accepted', 'acknowledged', 'broken'];
    const shapes = states.map((state) => shapesOf([state]));
    expect(new Set(shapes).size).toBe(states.length);
  });

  it('draws a strip for each hop at both sizes', () => {
    for (const large of [false, true]) {
      const { container, unmount } = renderPiece(
        <Causeway road={road('accepted', 'accepted')} width={300} large={large} />,
      );
      expect(container.querySelectorAll('svg rect')).toHaveLength(2);
      expect(container.querySelectorAll('svg ellipse')).toHaveLength(3);
      expect(container.querySelectorAll('svg text')).toHaveLength(large ? 3 : 0);
      unmount();
    }
  });

  it('keeps labels apart and inside, in as few rows as that takes', () => {
    const xOf = (i: number) => 34 + i * 42;
    const labels = ['LSFARM', 'BCNRIG', 'SKSCHL', 'QT0BR-1', 'QT0TH-3', 'TELTXT', 'Ferry Office'];
    const placed = placeLabels(labels, xOf, 320);
    const spans = placed.map(({ x, anchor, row }, i) => {
      const length = labels[i]!.length * 7.9;
      const from = anchor === 'start' ? x : anchor === 'end' ? x - length : x - length / 2;
      return { row, from, to: from + length };
    });
    for (const [i, span] of spans.entries()) {
      expect(span.from).toBeGreaterThanOrEqual(0);
      expect(span.to).toBeLessThanOrEqual(320.001);
      for (const other of spans.slice(i + 1))
        if (other.row === span.row) expect(other.from >= span.to || other.to <= span.from).toBe(true);
    }
    expect(Math.max(...placed.map(({ row }) => row))).toBeLessThanOrEqual(2);
    expect(placeLabels(['A', 'B'], (i) => 34 + i * 250, 320).every(({ row }) => row === 0)).toBe(true);
  });
});
