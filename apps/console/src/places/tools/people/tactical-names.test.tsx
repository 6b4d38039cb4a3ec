import type { TacticalView } from '@tombolo/contract';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { TacticalNames } from './tactical-names';

const held: TacticalView = {
  id: crypto.randomUUID(),
  name: 'Shelter 2',
  call: 'QT7SH-5',
  since: '2026-11-26T06:00:00.000Z',
  until: null,
};
const over = { ...held, id: crypto.randomUUID(), name: 'Gate', until: '2026-11-26T07:30:00.000Z' };

describe('tactical names', () => {
  it('are given to a station; what is no name is said at its field and not sent', async () => {
    const asked = stationAnswers({
      'GET /api/v1/tactical-names': { body: [held, over] },
      'POST /api/v1/tactical-names': { body: held },
    });
    renderPiece(<TacticalNames />);
    const list = screen.getByRole('list', { name: 'Tactical names' });
    expect(await within(list).findByText('Shelter 2')).toBeVisible();
    expect(within(list).getAllByRole('listitem')).toHaveLength(1);
    expect(screen.getByText(/^Gate was QT7SH-5 from .+ until .+/)).toBeInTheDocument();
    const type = (label: string, text: string) => userEvent.type(screen.getByRole('textbox', { name: label }), text);
    await type('Tactical name', 'QT1NC');
    await type('Goes to the station', 'qt6cl');
    const button = screen.getByRole('button', { name: 'Give the name' });
    await userEvent.click(button);
    expect(await screen.findByText('that could be taken for a call sign')).toBeInTheDocument();
    const posts = () => asked.filter(({ method }) => method === 'POST');
    expect(posts()).toEqual([]);
    await userEvent.clear(screen.getByRole('textbox', { name: 'Tactical name' }));
    await type('Tactical name', 'Net control');
    await userEvent.click(button);
    await waitFor(() => expect(posts()[0]?.body).toEqual({ name: 'Net control', call: 'QT6CL' }));
    await waitFor(() => expect(screen.getByRole('textbox', { name: 'Tactical name' })).toHaveValue(''));
  });

  it('end by one press, and are given again by another', async () => {
    const asked = stationAnswers({
      'GET /api/v1/tactical-names': { body: [held] },
      [`DELETE /api/v1/tactical-names/${held.id}`]: { status: 204, body: null },
      'POST /api/v1/tactical-names': { body: held },
    });
    renderPiece(<TacticalNames />);
    await userEvent.click(await screen.findByRole('button', { name: 'End: the name Shelter 2' }));
    await userEvent.click(await screen.findByRole('button', { name: 'Give it again: Shelter 2 to QT7SH-5' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')?.body).toEqual({ name: 'Shelter 2', call: 'QT7SH-5' }),
    );
  });
});
