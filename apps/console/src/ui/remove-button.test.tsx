import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece } from '../testing/render';
import { RemoveButton } from './remove-button';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

it('asks before it removes, and a double press by mistake removes nothing', async () => {
  const removed = jest.fn();
  renderPiece(<RemoveButton about="Old map" onRemove={removed} />);
  await userEvent.dblClick(screen.getByRole('button', { name: 'Remove: Old map' }));
  expect(removed).not.toHaveBeenCalled();
  await userEvent.click(screen.getByRole('button', { name: 'Remove: Old map' }));
  await userEvent.click(screen.getByRole('button', { name: 'Keep it: Old map' }));
  expect(screen.queryByRole('button', { name: /for good/ })).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: 'Remove: Old map' }));
  await userEvent.click(screen.getByRole('button', { name: 'Remove for good: Old map' }));
  expect(removed).toHaveBeenCalledTimes(1);
});
