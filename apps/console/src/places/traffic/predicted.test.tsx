import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece } from '../../testing/render';
import { Predicted } from './predicted';

const kept = {
  at: '2026-11-26T10:00:00.000Z',
  proven: { chance: 0.82, low: 0, high: 0.97 },
  basis: 'evidence' as const,
  rests: ['QT2AR-7 to QT0TH-3: 94 of 100, heard 3, missed 0'],
};

describe('what was expected of an item', () => {
  it('is told with how sure it was, and opened to what it rested on', async () => {
    renderPiece(<Predicted predictions={{ leg: kept }} />);
    expect(
      screen.getByText(
        'When it was queued: of 100 such sendings about 82 would be proved (1 to 97), by what was heard and tried.',
      ),
    ).toBeVisible();
    expect(screen.queryByText(kept.rests[0]!)).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'What it rested on' }));
    expect(screen.getByText(kept.rests[0]!)).toBeVisible();
  });

  it('is called a guess where it was one, and is nothing where nothing was predicted', () => {
    const { unmount } = renderPiece(<Predicted predictions={{ leg: { ...kept, basis: 'map', rests: [] } }} />);
    expect(screen.getByText(/, a guess\.$/)).toBeVisible();
    expect(screen.queryByRole('button')).toBeNull();
    unmount();
    renderPiece(<Predicted predictions={{}} />);
    expect(screen.queryByRole('heading')).toBeNull();
  });
});
