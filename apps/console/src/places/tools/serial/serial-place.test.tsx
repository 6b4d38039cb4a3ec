import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { SerialPlace } from './serial-place';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

describe('serial lines', () => {
  it('are told apart by pulling the plug: the one that appears is it', async () => {
    const there: { device: string; builtIn: boolean }[] = [{ device: '/dev/ttyS0', builtIn: true }];
    stationAnswers({ 'GET /api/v1/serial-ports': { body: there } });
    renderPiece(<SerialPlace />);
    await userEvent.click(await screen.findByRole('button', { name: 'It is unplugged: look for it' }));
    expect(screen.getByText('Plug it in now.')).toBeInTheDocument();
    there.push({ device: '/dev/ttyUSB0', builtIn: false });
    expect(
      await screen.findByText('/dev/ttyUSB0 appeared: it is this one.', {}, { timeout: 5000 }),
    ).toBeInTheDocument();
    const rows = within(screen.getByRole('list', { name: 'Serial devices' })).getAllByRole('listitem');
    expect(rows[0]).toHaveTextContent('/dev/ttyUSB0');
    await userEvent.click(screen.getByRole('button', { name: 'Choose: /dev/ttyUSB0' }));
    expect(screen.getByRole('textbox', { name: 'Device' })).toHaveValue('/dev/ttyUSB0');
    there.splice(0, 1);
    expect(await screen.findByText('/dev/ttyS0 is gone.', {}, { timeout: 5000 })).toBeInTheDocument();
  });

  it('are listened to at each speed, and what each looked like is said', async () => {
    const asked = stationAnswers({
      'GET /api/v1/serial-ports': { body: [] },
      'POST /api/v1/serial-ports/probe': {
        body: {
          tried: [
            {
              speedBd: 4800,
              words: 'at 4800 Bd no good sentence in 2 s and 71 % of the octets outside the set',
              verdict: 'wrong',
            },
            { speedBd: 9600, words: 'at 9600 Bd 4 good sentences in 2 s and 280 octets', verdict: 'right' },
          ],
          foundBd: 9600,
        },
      },
    });
    renderPiece(<SerialPlace />);
    const listen = await screen.findByRole('button', { name: 'Listen at each speed' });
    await userEvent.click(listen);
    expect(asked.some(({ method }) => method === 'POST')).toBe(false);
    expect(screen.getByText('the name of a device, such as /dev/ttyUSB0')).toBeInTheDocument();
    await userEvent.type(screen.getByRole('textbox', { name: 'Device' }), '/dev/pts/4');
    await userEvent.click(screen.getByRole('button', { name: 'Listen at each speed' }));
    expect(await screen.findByText('It talks at 9600 Bd.')).toBeInTheDocument();
    expect(screen.getByText(/^At 4800 Bd no good sentence/)).toBeInTheDocument();
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'POST')!.body).toEqual({ device: '/dev/pts/4', talk: 'position' }),
    );
  });

  it('say why one could not be listened to', async () => {
    stationAnswers({
      'GET /api/v1/serial-ports': { body: [] },
      'POST /api/v1/serial-ports/probe': {
        status: 409,
        body: {
          type: 'tombolo:no-port',
          title: 'No',
          status: 409,
          detail: 'there is no /dev/ttyUSB9: is it plugged in?',
        },
      },
    });
    renderPiece(<SerialPlace />);
    await userEvent.type(await screen.findByRole('textbox', { name: 'Device' }), '/dev/ttyUSB9');
    await userEvent.click(screen.getByRole('button', { name: 'Listen at each speed' }));
    expect(await screen.findByText(/is it plugged in\?/)).toBeInTheDocument();
  });
});
