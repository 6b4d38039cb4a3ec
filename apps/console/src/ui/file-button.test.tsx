import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece } from '../testing/render';
import { FileButton } from './file-button';

const recording = (text: string) => new File([text], 'evening.log', { type: 'text/plain' });

it('asks for a file by a button, and takes the same one again, since it may have changed', async () => {
  const taken = jest.fn<void, [File]>();
  renderPiece(<FileButton title="Choose a file" label="Recording" accept=".log" onFile={taken} />);
  const input = screen.getByLabelText<HTMLInputElement>('Recording');
  const asked = jest.fn();
  input.addEventListener('click', asked);
  await userEvent.click(screen.getByRole('button', { name: 'Choose a file' }));
  expect(asked).toHaveBeenCalledTimes(1);
  const first = recording('a');
  const changed = recording('ab');
  await userEvent.upload(input, first);
  await userEvent.upload(input, changed);
  expect(taken.mock.calls).toEqual([[first], [changed]]);
});

it('that cannot be pressed asks for nothing and says why', async () => {
  const asked = jest.fn();
  renderPiece(<FileButton title="Choose a file" label="Recording" disabled="Not now." onFile={jest.fn()} />);
  screen.getByLabelText('Recording').addEventListener('click', asked);
  await userEvent.click(screen.getByRole('button', { name: 'Choose a file' }));
  expect(asked).not.toHaveBeenCalled();
  expect(await screen.findByText('Not now.')).toBeVisible();
});
