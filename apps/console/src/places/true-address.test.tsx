import { renderHook } from '@testing-library/react';
import { useTrueAddress } from './true-address';

const mockReplace = jest.fn();
jest.mock('expo-router', () => ({ router: { replace: (href: string) => mockReplace(href) } }));

beforeEach(() => {
  jest.useFakeTimers();
  mockReplace.mockClear();
});
afterEach(() => jest.useRealTimers());

it('goes to what the address says when something else is shown after a step of the history', () => {
  const { rerender } = renderHook(({ path }) => useTrueAddress(path), { initialProps: { path: '/traffic' } });
  history.replaceState(null, '', '/log?tab=heard');
  dispatchEvent(new PopStateEvent('popstate'));
  jest.runAllTimers();
  expect(mockReplace.mock.calls).toEqual([['/log?tab=heard']]);
  rerender({ path: '/log' });
  dispatchEvent(new PopStateEvent('popstate'));
  jest.runAllTimers();
  expect(mockReplace).toHaveBeenCalledTimes(1);
});
