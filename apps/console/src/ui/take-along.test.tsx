import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { TakeAlong } from './take-along';

describe('taking something along', () => {
  const clipboard = (writeText: unknown) =>
    Object.defineProperty(navigator, 'clipboard', { value: writeText && { writeText }, configurable: true });

  it('copies the text, and says so', async () => {
    const user = userEvent.setup();
    const write = jest.fn(() => Promise.resolve());
    clipboard(write);
    render(<TakeAlong text="QT1NC>APRS:Home" about="the packet" />);
    await user.click(screen.getByRole('button', { name: 'Copy: the packet' }));
    expect(write).toHaveBeenCalledWith('QT1NC>APRS:Home');
    expect(await screen.findByText('Copied.')).toBeTruthy();
  });

  it('says what to do where the browser forbids it or has no clipboard', async () => {
    const user = userEvent.setup();
    for (const forbids of [() => Promise.reject(new Error('no')), undefined]) {
      clipboard(forbids);
      const { unmount } = render(<TakeAlong text="x" about="the packet" />);
      await user.click(screen.getByRole('button', { name: 'Copy: the packet' }));
      expect(await screen.findByText(/copy it by hand/)).toBeTruthy();
      unmount();
    }
  });

  it('prints where it is asked for, and shares where the device can', async () => {
    const user = userEvent.setup();
    const print = jest.spyOn(window, 'print').mockImplementation(() => undefined);
    const share = jest.fn(() => Promise.reject(new Error('closed')));
    Object.defineProperty(navigator, 'share', { value: share, configurable: true });
    render(<TakeAlong text="x" about="the packet" print />);
    await user.click(screen.getByRole('button', { name: 'Print: the packet' }));
    expect(print).toHaveBeenCalledTimes(1);
    await user.click(screen.getByRole('button', { name: 'Share: the packet' }));
    expect(share).toHaveBeenCalledWith({ text: 'x' });
    Object.defineProperty(navigator, 'share', { value: undefined, configurable: true });
  });
});
