import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece } from '../testing/render';
import { Button } from './button';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

it('a button that cannot be pressed now is reached by keys, and says why', async () => {
  const pressed = jest.fn();
  const { rerender } = renderPiece(<Button title="Send" disabled="It needs a text." onPress={pressed} />);
  await userEvent.tab();
  const button = screen.getByRole('button', { name: 'Send' });
  expect(button).toHaveFocus();
  expect(button).toHaveAttribute('aria-disabled', 'true');
  expect(button).toHaveAttribute('aria-description', 'It needs a text.');
  await userEvent.keyboard('{Enter}');
  expect(screen.getByRole('status')).toHaveTextContent('It needs a text.');
  expect(pressed).not.toHaveBeenCalled();
  rerender(<Button title="Send" disabled={false} onPress={pressed} />);
});
