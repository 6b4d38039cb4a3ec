import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { WaypointsNow, WaypointsOut } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT, openSettings } from '../../../testing/samples';
import { PositionsOutPlace } from './positions-out-place';
import { outForm, outWords } from './receiver-form';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const OUT: WaypointsOut = {
  to: { by: 'serial', device: '/dev/ttyUSB0', speedBd: 4800 },
  kinds: ['station', 'object'],
  withinKm: 50,
};
const answers = (now: Partial<WaypointsNow> = {}) =>
  stationAnswers({
    'GET /api/v1/waypoints': { body: { out: null, link: 'off', reason: null, given: 0, lastAt: null, ...now } },
    'PATCH /api/v1/settings': { body: openSettings },
  });

describe('positions for a navigation receiver', () => {
  it('are said in words, and each complaint is at its field', () => {
    expect(outWords(OUT)).toBe('To /dev/ttyUSB0, 4800 Bd: stations, objects within 50 km');
    expect(outWords({ ...OUT, to: { by: 'tcp', host: 'plotter', port: 10110 }, withinKm: null })).toBe(
      'To plotter, port 10110: stations, objects',
    );
    const wrong = outForm('serial', ['node']).safeParse({
      device: '',
      speedBd: '4801',
      host: '',
      port: '',
      withinKm: 'far',
    });
    expect(wrong.error!.issues.map(({ path }) => path[0]).sort()).toEqual(['device', 'speedBd', 'withinKm']);
    expect(
      outForm('tcp', ['node']).parse({ device: '', speedBd: '', host: 'a', port: '10110', withinKm: '2,5' }),
    ).toEqual({
      to: { by: 'tcp', host: 'a', port: 10110 },
      kinds: ['node'],
      withinKm: 2.5,
    });
  });

  it('are given as chosen', async () => {
    const asked = answers();
    renderPiece(<PositionsOutPlace />);
    expect(await screen.findByText('None gets anything now.')).toBeInTheDocument();
    await userEvent.type(screen.getByLabelText('Device'), '/dev/ttyUSB0');
    await userEvent.click(screen.getByRole('checkbox', { name: 'Items' }));
    await userEvent.type(screen.getByLabelText('Within, km'), '50');
    await userEvent.click(screen.getByRole('button', { name: 'Give it what is heard' }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({ waypointsOut: OUT }));
    expect(screen.getByRole('link', { name: /stations\.geojson/ })).toHaveAttribute(
      'href',
      expect.stringContaining('/api/v1/exports/stations.geojson'),
    );
  });

  it('tell how many went, or why none does, and end at one press', async () => {
    const asked = answers({ out: OUT, link: 'down', reason: 'there is no /dev/ttyUSB0: is it plugged in?' });
    const { unmount } = renderPiece(<PositionsOutPlace />);
    expect(await screen.findByText(/is it plugged in\?/)).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Give it nothing more' }));
    await waitFor(() => expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({ waypointsOut: null }));
    unmount();
    answers({ out: OUT, link: 'up', given: 12, lastAt: AT });
    renderPiece(<PositionsOutPlace />);
    expect(await screen.findByText(/^12 given, the last at/)).toBeInTheDocument();
  });
});
