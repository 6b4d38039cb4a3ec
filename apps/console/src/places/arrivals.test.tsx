import { QueryClientProvider } from '@tanstack/react-query';
import { act, render, screen } from '@testing-library/react';
import type { ItemSummary } from '@tombolo/contract';
import { itemKeys } from '../live/item-lists';
import { createClient } from '../live/queries';
import { Arrivals, arrivalWords } from './arrivals';

const item = (id: string, more: Partial<ItemSummary> = {}) =>
  ({ id, heap: 'needs you', direction: 'in', sender: 'QT7SH-5', addressee: 'QT2AR-7', ...more }) as ItemSummary;

describe('what is told of arrivals', () => {
  it.each([
    [[], ''],
    [[item('1')], 'From QT7SH-5: an item needs you.'],
    [[item('1', { direction: 'out', addressee: 'QT4LB-8' })], 'To QT4LB-8: it needs you.'],
    [[item('1'), item('2'), item('3')], '3 more items need you.'],
  ])('%#', (items, words) => expect(arrivalWords(items)).toBe(words));

  it('is one sentence for all that came together, and nothing of what was there', async () => {
    jest.useFakeTimers();
    const client = createClient();
    const have = (...rows: ItemSummary[]) => act(async () => client.setQueryData(itemKeys.open, { rows, more: false }));
    await have(item('1'));
    render(
      <QueryClientProvider client={client}>
        <Arrivals />
      </QueryClientProvider>,
    );
    await act(() => jest.advanceTimersByTimeAsync(10_000));
    expect(screen.getByRole('status')).toHaveTextContent('');
    await have(item('1'), item('2'));
    await have(item('1'), item('2'), item('3'), item('4', { heap: 'on its way' }));
    await act(() => jest.advanceTimersByTimeAsync(4000));
    expect(screen.getByRole('status')).toHaveTextContent('2 more items need you.');
    jest.useRealTimers();
  });
});
