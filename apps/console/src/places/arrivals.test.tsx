import { QueryClientProvider } from '@tanstack/react-query';
import { act, render, screen } from '@testing-library/react';
import type { ItemSummary } from '@tombolo/contract';
import { itemKeys } from '../live/item-lists';
import { createClient } from '../live/queries';
import { LookProvider } from '../ui/look';
import { Arrivals, arrivalWords } from './arrivals';

const item = (id: string, more: Partial<ItemSummary> = {}) =>
  ({
    id,
    heap: 'needs you',
    direction: 'in',
    sender: 'QT7SH-5',
    addressee: 'QT2AR-7',
    whole: null,
    ...more,
  }) as ItemSummary;

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

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
        <LookProvider>
          <Arrivals path="/traffic" />
        </LookProvider>
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

  it('is told again when more came of a text in parts, as of one', async () => {
    jest.useFakeTimers();
    const client = createClient();
    const have = (...rows: ItemSummary[]) => act(async () => client.setQueryData(itemKeys.open, { rows, more: false }));
    const part = (there: number) => item('1', { whole: { text: 'One …', of: 4, there } });
    await have(part(1));
    render(
      <QueryClientProvider client={client}>
        <LookProvider>
          <Arrivals path="/chart" />
        </LookProvider>
      </QueryClientProvider>,
    );
    await have(part(1));
    await act(() => jest.advanceTimersByTimeAsync(4000));
    expect(screen.getByRole('status')).toHaveTextContent('');
    await have(part(2));
    await have(part(3));
    await act(() => jest.advanceTimersByTimeAsync(4000));
    expect(screen.getByRole('status')).toHaveTextContent('From QT7SH-5: an item needs you.');
    jest.useRealTimers();
  });

  it('is seen while another place is open, leads to what came, and is gone once Traffic was looked at', async () => {
    jest.useFakeTimers();
    const client = createClient();
    const have = (...rows: ItemSummary[]) => act(async () => client.setQueryData(itemKeys.open, { rows, more: false }));
    const at = (path: string) => (
      <QueryClientProvider client={client}>
        <LookProvider>
          <Arrivals path={path} />
        </LookProvider>
      </QueryClientProvider>
    );
    await have();
    const { rerender } = render(at('/chart'));
    await have(item('1'));
    await act(() => jest.advanceTimersByTimeAsync(4000));
    expect(screen.getByRole('link', { name: 'From QT7SH-5: an item needs you.' })).toHaveAttribute(
      'href',
      '/traffic/1',
    );
    act(() => rerender(at('/traffic')));
    expect(screen.queryByRole('region', { name: 'News' })).toBeNull();
    act(() => rerender(at('/chart')));
    expect(screen.queryByRole('region', { name: 'News' })).toBeNull();
    await have(item('1'), item('2'), item('3'));
    await act(() => jest.advanceTimersByTimeAsync(4000));
    expect(screen.getByRole('link', { name: '2 more items need you.' })).toHaveAttribute('href', '/traffic');
    act(() => screen.getByRole('button', { name: 'Close: this news' }).click());
    expect(screen.queryByRole('region', { name: 'News' })).toBeNull();
    jest.useRealTimers();
  });
});
