import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Text, View } from 'react-native';
import { LookProvider } from './look';
import { LongPage } from './page';

const draw = (row: string) => <Text>{row}</Text>;
const page = (rows: readonly string[], of = '') => (
  <LookProvider>
    <View role="main">
      <LongPage title="Log" head={<></>} rows={rows} of={of} keyOf={(row) => row} draw={draw} />
    </View>
  </LookProvider>
);
describe('a long page', () => {
  const before = ['second', 'third'];
  const after = ['first', ...before];
  /** As a browser tells it, of whichever element around the rows it is that scrolls. */
  function scrollTo(top: number) {
    for (let node = screen.getByText('third').parentElement; node; node = node.parentElement) {
      Object.defineProperty(node, 'scrollTop', { value: top, configurable: true, writable: true });
      fireEvent.scroll(node);
    }
  }

  it('shows what is new at once to whoever is at its top', () => {
    const { rerender } = render(page(before));
    rerender(page(after));
    expect(screen.getByText('first')).toBeTruthy();
  });

  it('holds back what is new from whoever reads further down, says how much, and leads there', async () => {
    const { rerender } = render(page(before));
    scrollTo(900);
    rerender(page(after));
    expect(screen.queryByText('first')).toBeNull();
    const heading = screen.getByRole('heading', { name: 'Log' });
    heading.scrollIntoView = jest.fn();
    await userEvent.click(screen.getByRole('button', { name: '1 new at the top' }));
    expect(heading).toHaveFocus();
    expect(heading.scrollIntoView).toHaveBeenCalled();
    scrollTo(0);
    expect(screen.getByText('first')).toBeTruthy();
  });

  it('holds nothing back of another search', () => {
    const { rerender } = render(page(before, 'QT1'));
    scrollTo(900);
    rerender(page(after, 'QT2'));
    expect(screen.getByText('first')).toBeTruthy();
  });
});
