import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece, stationAnswers } from '../../testing/render';
import { arrivedItem } from '../../testing/samples';
import { Parts } from './parts';

const ID = '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c9';
const parts = {
  set: 'c',
  n: 1,
  of: 4,
  text: 'Insulin … for six',
  missing: [2, 4],
  items: [
    { n: 1, id: `${ID}1` },
    { n: 3, id: `${ID}3` },
  ],
};

describe('a part of a longer text', () => {
  it('shows what is there, leads to the others, and asks for what is missing', async () => {
    stationAnswers({});
    const answer = jest.fn();
    renderPiece(<Parts item={arrivedItem({ parts })} answer={answer} />);
    expect(screen.getByRole('heading', { name: '2 of 4 parts' })).toBeInTheDocument();
    expect(screen.getByText('Insulin … for six')).toBeInTheDocument();
    expect(screen.getByRole('link', { name: 'Part 3 of 4' })).toHaveAttribute('href', `/traffic/${ID}3`);
    expect(screen.queryByRole('link', { name: 'Part 1 of 4' })).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Ask for part 2, 4 again' }));
    expect(answer).toHaveBeenCalledWith('again 2,4/4c');
  });

  it('asks for nothing when all is there, nor for what we sent ourselves', () => {
    stationAnswers({});
    const { unmount } = renderPiece(
      <Parts item={arrivedItem({ parts: { ...parts, missing: [] } })} answer={jest.fn()} />,
    );
    expect(screen.getByRole('heading', { name: 'The whole text' })).toBeInTheDocument();
    expect(screen.queryByRole('button')).toBeNull();
    unmount();
    renderPiece(<Parts item={arrivedItem({ direction: 'out', parts })} answer={jest.fn()} />);
    expect(screen.getByText('Part 2, 4 is not on record here.')).toBeInTheDocument();
    expect(screen.queryByRole('button')).toBeNull();
  });
});
