import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { usePreferences } from '../live/preferences';
import { renderPiece, stationAnswers } from '../testing/render';
import { arrivedItem, AT } from '../testing/samples';
import { Unanswered, unanswered } from './unanswered';

const MINUTE_MS = 60_000;
const late = (minutes: number) => new Date(Date.now() - minutes * MINUTE_MS).toISOString();
const answers = (...rows: ReturnType<typeof arrivedItem>[]) =>
  stationAnswers({ 'GET /api/v1/items/open': { body: { rows, more: false } } });
const ID = '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c9';

describe('what waits for an answer', () => {
  beforeEach(() => usePreferences.getState().prefer({ unansweredMin: 30 }));
  afterEach(() => usePreferences.getState().prefer({ unansweredMin: null }));

  it('is late when it came to us, needs somebody and is older than that', () => {
    const now = Date.parse(AT) + 31 * MINUTE_MS;
    const item = arrivedItem({ createdAt: AT, heap: 'needs you' });
    expect(unanswered([item], 30, now)).toEqual([item]);
    for (const other of [
      { ...item, heap: 'filed' as const },
      { ...item, direction: 'out' as const },
      { ...item, kind: 'bulletin' as const },
      { ...item, createdAt: new Date(now).toISOString() },
    ])
      expect(unanswered([other], 30, now)).toEqual([]);
  });

  it('is said until somebody closes it, and leads to it', async () => {
    answers(
      arrivedItem({ id: `${ID}1`, heap: 'needs you', createdAt: late(31) }),
      arrivedItem({ id: `${ID}2`, heap: 'needs you', createdAt: late(5) }),
    );
    renderPiece(<Unanswered />);
    const link = await screen.findByRole('link', { name: '1 item waits for an answer longer than 30 min' });
    expect(link).toHaveAttribute('href', `/traffic/${ID}1`);
    await userEvent.click(screen.getByRole('button', { name: 'Close: what waits for an answer' }));
    expect(screen.queryByRole('region', { name: 'Unanswered' })).toBeNull();
  });

  it('of several leads to all, and nothing is said where nobody wishes it', async () => {
    answers(
      arrivedItem({ id: `${ID}1`, heap: 'needs you', createdAt: late(31) }),
      arrivedItem({ id: `${ID}2`, heap: 'needs you', createdAt: late(90) }),
    );
    const { unmount } = renderPiece(<Unanswered />);
    const link = await screen.findByRole('link', { name: '2 items wait for an answer longer than 30 min' });
    expect(link).toHaveAttribute('href', '/traffic');
    unmount();
    usePreferences.getState().prefer({ unansweredMin: null });
    renderPiece(<Unanswered />);
    expect(screen.queryByRole('region')).toBeNull();
  });
});
