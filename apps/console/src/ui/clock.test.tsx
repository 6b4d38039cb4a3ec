import { act, render, screen } from '@testing-library/react';
import { Text } from 'react-native';
import { useTimed } from './clock';
import { age } from './time';

describe('words that time changes', () => {
  const since = Date.parse('2026-11-25T14:00:00Z');
  let drawn = 0;
  function Old() {
    const words = useTimed((now) => age(new Date(since).toISOString(), now));
    drawn++;
    return <Text>{words}</Text>;
  }
  beforeEach(() => {
    jest.useFakeTimers({ now: since + 150_000 });
    drawn = 0;
  });
  afterEach(() => jest.useRealTimers());

  it('are drawn again when they are other words, and not before', () => {
    render(<Old />);
    expect(screen.getByText('2 min')).toBeTruthy();
    const first = drawn;
    act(() => jest.advanceTimersByTime(25_000));
    expect(drawn).toBe(first);
    act(() => jest.advanceTimersByTime(5000));
    expect(screen.getByText('3 min')).toBeTruthy();
    expect(drawn).toBe(first + 1);
  });

  it('are true at once, however long nobody looked', () => {
    render(<Old />).unmount();
    jest.setSystemTime(since + 7_200_000);
    render(<Old />);
    expect(screen.getByText('2 h')).toBeTruthy();
  });

  it('leave no clock behind', () => {
    const { unmount } = render(<Old />);
    expect(jest.getTimerCount()).toBe(1);
    unmount();
    expect(jest.getTimerCount()).toBe(0);
  });
});
