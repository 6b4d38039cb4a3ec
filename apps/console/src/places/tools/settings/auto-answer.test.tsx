import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { openSettings } from '../../../testing/samples';
import { AutomaticAnswer } from './auto-answer';

const press = (name: string) => userEvent.click(screen.getByRole('button', { name }));
const fill = (name: string, value: string) =>
  fireEvent.change(screen.getByRole('textbox', { name }), { target: { value } });

describe('what is told while nobody is at the key', () => {
  it('is checked with its mark and its hours, kept, and ended at one press', async () => {
    const asked = stationAnswers({ 'PATCH /api/v1/settings': { body: openSettings } });
    renderPiece(<AutomaticAnswer settings={openSettings} />);
    expect(screen.getByText('Whoever writes is told nothing but the acknowledgement.')).toBeInTheDocument();
    fill('What is told', 'x'.repeat(62));
    await userEvent.click(screen.getByRole('checkbox', { name: 'At any hour' }));
    fill('From, UTC', '25:00');
    await press('Tell whoever writes');
    expect(screen.getByText(/68 of 67 characters: shorten/)).toBeInTheDocument();
    expect(screen.getByText('a time such as 22:00, in UTC')).toBeInTheDocument();
    expect(asked).toEqual([]);
    fill('What is told', 'asleep');
    fill('From, UTC', '23:00');
    await press('Tell whoever writes');
    await waitFor(() =>
      expect(asked[0]?.body).toEqual({ autoAnswer: { text: 'asleep', hours: { from: '23:00', to: '06:00' } } }),
    );
  });

  it('says what is told now', async () => {
    const asked = stationAnswers({ 'PATCH /api/v1/settings': { body: openSettings } });
    const autoAnswer = { text: 'asleep', hours: { from: '23:00', to: '06:00' } };
    renderPiece(<AutomaticAnswer settings={{ ...openSettings, autoAnswer }} />);
    expect(screen.getByText('Whoever writes is told: “Auto: asleep”, from 23:00Z to 06:00Z.')).toBeInTheDocument();
    await press('I am back: tell nothing');
    await waitFor(() => expect(asked[0]?.body).toEqual({ autoAnswer: null }));
  });
});
