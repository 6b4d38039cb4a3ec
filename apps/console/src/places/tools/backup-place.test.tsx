import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece, stationAnswers } from '../../testing/render';
import { BackupPlace } from './backup-place';

const backup = {
  id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3d',
  startedAt: '2026-11-25T07:40:00.000Z',
  finishedAt: '2026-11-25T07:41:00.000Z',
  octets: 2_500_000,
  verified: true,
  problem: null,
  ready: true,
};

describe('the backup place', () => {
  it('makes one under a passphrase that was typed twice alike and is long enough', async () => {
    const asked = stationAnswers({
      'GET /api/v1/backups': { body: [] },
      'POST /api/v1/backups': { status: 202, body: { ...backup, finishedAt: null, verified: false, ready: false } },
    });
    renderPiece(<BackupPlace />);
    expect(await screen.findByText('No backup yet')).toBeTruthy();
    const [first, again] = [screen.getByLabelText('Passphrase'), screen.getByLabelText('The same once more')];
    await userEvent.type(first, 'short');
    await userEvent.click(screen.getByRole('button', { name: 'Make a backup' }));
    expect(await screen.findByText('at least 12 characters')).toBeTruthy();
    await userEvent.type(first, ' and then longer');
    await userEvent.type(again, 'something else');
    await userEvent.click(screen.getByRole('button', { name: 'Make a backup' }));
    expect(await screen.findByText('the two are not the same')).toBeTruthy();
    expect(asked.some(({ method }) => method === 'POST')).toBe(false);
    await userEvent.clear(again);
    await userEvent.type(again, 'short and then longer');
    await userEvent.click(screen.getByRole('button', { name: 'Make a backup' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')!.body).toEqual({ passphrase: 'short and then longer' }),
    );
  });

  it('tells which were verified, and why one failed', async () => {
    stationAnswers({
      'GET /api/v1/backups': {
        body: [backup, { ...backup, id: crypto.randomUUID(), verified: false, ready: false, problem: 'no room' }],
      },
    });
    renderPiece(<BackupPlace />);
    expect(await screen.findByText('Verified: restored on trial, and the same, 2.5 MB')).toBeTruthy();
    expect(screen.getByText('no room')).toBeTruthy();
    expect(screen.getAllByRole('button', { name: 'Save the file' })).toHaveLength(1);
  });
});
