import { act, renderHook } from '@testing-library/react';
import { useAddressed } from './addressed';

const mockTold: Record<string, string | string[]> = {};
const mockSet = jest.fn();
jest.mock('expo-router', () => ({
  useLocalSearchParams: () => ({ ...mockTold }),
  router: { setParams: (params: unknown) => mockSet(params) },
}));

const USUAL = { text: '', kind: 'all' };
beforeEach(() => {
  jest.useFakeTimers();
  mockSet.mockClear();
  for (const name of Object.keys(mockTold)) delete mockTold[name];
});
afterEach(() => jest.useRealTimers());

describe('what stands in the address', () => {
  it('is what it says, or what is usual', () => {
    Object.assign(mockTold, { kind: 'position', text: ['twice', 'said'] });
    const { result } = renderHook(() => useAddressed(USUAL));
    expect(result.current[0]).toEqual({ text: '', kind: 'position' });
  });

  it('is shown at once, and written when the typing rests, without what is usual', () => {
    const { result, rerender } = renderHook(() => useAddressed(USUAL));
    act(() => result.current[1]({ text: 'Q' }));
    act(() => result.current[1]({ text: 'QT' }));
    expect(result.current[0].text).toBe('QT');
    expect(mockSet).not.toHaveBeenCalled();
    act(() => jest.runAllTimers());
    expect(mockSet.mock.calls).toEqual([[{ text: 'QT' }]]);
    Object.assign(mockTold, { text: 'QT' });
    rerender();
    expect(result.current[0].text).toBe('QT');
    act(() => result.current[1]({ text: '' }));
    act(() => jest.runAllTimers());
    expect(mockSet).toHaveBeenLastCalledWith({ text: undefined });
  });

  it('follows the way back', () => {
    Object.assign(mockTold, { text: 'later' });
    const { result, rerender } = renderHook(() => useAddressed(USUAL));
    delete mockTold.text;
    rerender();
    expect(result.current[0].text).toBe('');
  });
});
