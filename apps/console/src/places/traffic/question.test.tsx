import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { writing, written } from '../../testing/drafts';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT, arrivedItem } from '../../testing/samples';
import { CommandAgain, Question } from './question';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const ID = '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c99';

describe('what an answer belongs to', () => {
  it('is shown with who it is from in the end, and leads there', () => {
    stationAnswers({});
    const question = { id: ID, addressee: 'TELTXT', body: '005550142: When?', command: null };
    renderPiece(<Question item={arrivedItem({ sender: 'TELTXT', question, person: 'Ferry Office' })} />);
    expect(screen.getByText('From Ferry Office, by TELTXT')).toBeInTheDocument();
    expect(screen.getByRole('link', { name: 'It answers “005550142: When?”' })).toHaveAttribute(
      'href',
      `/traffic/${ID}`,
    );
  });

  it('is said by somebody where several fit', async () => {
    const item = arrivedItem({
      mayAnswer: [
        { id: ID, addressee: 'TELTXT', body: '1234: One' },
        { id: ID.replace('99', '98'), addressee: 'TELTXT', body: '1234: Two' },
      ],
    });
    const asked = stationAnswers({ [`PUT /api/v1/items/${item.id}/question`]: { body: item } });
    renderPiece(<Question item={item} />);
    await userEvent.click(screen.getByRole('button', { name: 'It belongs to “1234: One”: TELTXT' }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({ question: ID }));
  });
});

describe('a command that was sent', () => {
  it('is written again with what it was made of, or ended when it is open still', async () => {
    const values = { group: 'SOUNDNET' };
    stationAnswers({
      'GET /api/v1/services/joined': {
        body: [{ address: 'ROLLCL', leave: 'out', title: 'Leave a group', values, since: AT }],
      },
    });
    writing();
    renderPiece(<CommandAgain command={{ address: 'ROLLCL', command: 'in', values: { ...values, text: 'Hello' } }} />);
    await userEvent.click(screen.getByRole('button', { name: 'Again, with changes' }));
    expect(written()).toMatchObject({ way: 'service', addressee: 'ROLLCL', command: 'in', values, body: 'Hello' });
    await userEvent.click(await screen.findByRole('button', { name: 'Leave a group: SOUNDNET' }));
    expect(written()).toMatchObject({ way: 'service', addressee: 'ROLLCL', command: 'out', values, body: '' });
  });
});
