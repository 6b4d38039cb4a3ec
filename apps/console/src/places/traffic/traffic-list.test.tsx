import { screen } from '@testing-library/react';
import { renderPiece, stationAnswers } from '../../testing/render';
import { arrivedItem, openSettings } from '../../testing/samples';
import { TrafficList } from './traffic-list';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

describe('what is in hand', () => {
  const item = (n: number, more: object) => ({
    ...arrivedItem(),
    id: `0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c${n}`,
    sender: `QT${n}`,
    createdAt: `2026-11-25T08:00:${n}.000Z`,
    ...more,
  });

  it('counts what needs somebody though it is not on the first page, and each item once', async () => {
    const old = item(11, { heap: 'needs you', createdAt: '2026-11-20T08:00:00.000Z' });
    const both = item(12, { heap: 'needs you' });
    stationAnswers({
      'GET /api/v1/settings': { body: openSettings },
      'GET /api/v1/items': { body: { rows: [item(13, { heap: 'arrived' }), both], next: 'x' } },
      'GET /api/v1/items/open': { body: { rows: [both, old], more: false } },
    });
    renderPiece(<TrafficList selectedId={null} />);
    expect(await screen.findByText('QT11')).toBeTruthy();
    expect(screen.getAllByText('QT12')).toHaveLength(1);
    expect(screen.getByRole('heading', { name: 'Needs you' }).parentElement!.textContent).toContain('2');
  });

  it('says when there is more than can be shown', async () => {
    stationAnswers({
      'GET /api/v1/settings': { body: openSettings },
      'GET /api/v1/items': { body: { rows: [], next: null } },
      'GET /api/v1/items/open': { body: { rows: [item(11, { heap: 'needs you' })], more: true } },
    });
    renderPiece(<TrafficList selectedId={null} />);
    expect(await screen.findByText(/^1\s*or more$/)).toBeTruthy();
  });
});
