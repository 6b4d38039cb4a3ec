import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BackupPlanView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { BackupPlan } from './backup-plan';

const plan = (more: Partial<BackupPlanView> = {}): BackupPlanView => ({
  everyDays: null,
  kept: 7,
  passphraseSet: false,
  possible: true,
  files: [],
  lastGoodAt: null,
  problem: null,
  ...more,
});

describe('backups by themselves', () => {
  it('are asked for with a passphrase that is long enough', async () => {
    const asked = stationAnswers({
      'GET /api/v1/backup-plan': { body: plan() },
      'PUT /api/v1/backup-plan': { body: plan({ everyDays: 7, passphraseSet: true }) },
    });
    renderPiece(<BackupPlan />);
    expect(await screen.findByText('No verified backup yet.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Make them automatically' })).toBeNull();
    await userEvent.click(screen.getByRole('radio', { name: 'Every week' }));
    const field = screen.getByLabelText('Passphrase of the automatic backups');
    await userEvent.type(field, 'too short');
    await userEvent.click(screen.getByRole('button', { name: 'Make them automatically' }));
    expect(await screen.findByText('at least 12 characters')).toBeTruthy();
    expect(asked.some(({ method }) => method === 'PUT')).toBe(false);
    await userEvent.type(field, ', but not now');
    await userEvent.click(screen.getByRole('button', { name: 'Make them automatically' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({
        everyDays: 7,
        kept: 7,
        passphrase: 'too short, but not now',
      }),
    );
  });

  it('are listed, with why the last was not made', async () => {
    stationAnswers({
      'GET /api/v1/backup-plan': {
        body: plan({
          everyDays: 1,
          passphraseSet: true,
          files: [{ name: 'tombolo-2026-11-25.backup', octets: 2_500_000 }],
          lastGoodAt: '2026-11-25T00:00:10.000Z',
          problem: 'the disk is full',
        }),
      },
    });
    renderPiece(<BackupPlan />);
    expect(await screen.findByText('tombolo-2026-11-25.backup, 2.5 MB')).toBeTruthy();
    expect(screen.getByText('the disk is full')).toBeTruthy();
    expect(screen.getByText('The last verified backup:')).toBeTruthy();
    // The passphrase that is there is never shown.
    expect(screen.getByLabelText('Passphrase of the automatic backups')).toHaveValue('');
  });

  it('are not offered where none can be made', async () => {
    stationAnswers({ 'GET /api/v1/backup-plan': { body: plan({ possible: false }) } });
    renderPiece(<BackupPlan />);
    await waitFor(() => expect(screen.queryByText(/the automatic backups/)).toBeNull());
    expect(screen.queryByRole('heading', { name: 'Automatic backups' })).toBeNull();
  });
});
