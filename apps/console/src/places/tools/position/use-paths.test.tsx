import { act, screen, waitFor } from '@testing-library/react';
import type { AudienceView } from '@tombolo/contract';
import { useQueryClient } from '@tanstack/react-query';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT, modemLink } from '../../../testing/samples';
import { Choice } from '../../../ui/choice';
import { usePaths } from './use-paths';

const AUDIENCE: AudienceView = {
  at: AT,
  stations: 12,
  paths: [
    { path: ['WIDE1-1', 'WIDE2-1'], expected: 9.6 },
    { path: ['WIDE2-2'], expected: 8.1 },
    { path: ['WIDE1-1'], expected: 9.2 },
    { path: [], expected: 3 },
  ],
  enough: ['WIDE1-1'],
};
let again: () => Promise<void> = () => Promise.reject(new Error('not rendered'));
function Paths() {
  const { paths, usual } = usePaths(modemLink());
  const client = useQueryClient();
  again = () => client.refetchQueries({ queryKey: ['audience'] });
  return <Choice<string> label="Path" options={paths} value={usual} onChange={() => undefined} />;
}
const chosen = () => screen.findByRole('radio', { checked: true }).then((radio) => radio.getAttribute('aria-label'));

describe('the path of what goes to everybody', () => {
  it('says how many would hear it by each, and begins with the one that is enough', async () => {
    const asked = stationAnswers({ 'GET /api/v1/audience': { body: AUDIENCE } });
    renderPiece(<Paths />);
    await screen.findByText(
      /In its reach: about 9 of 12 stations known here\. That is enough: a longer path brings hardly more\.$/,
    );
    screen.getByText(/In its reach: about 10 of 12 stations known here\.$/);
    screen.getByText(/In its reach: about 3 of 12 stations known here\.$/);
    expect(await chosen()).toBe('WIDE1-1');
    expect(asked.map(({ path }) => path)).toEqual(['/api/v1/audience?bearerId=radio']);
  });

  it('says of the longest only what was reckoned: that a shorter one reaches fewer', async () => {
    stationAnswers({ 'GET /api/v1/audience': { body: { ...AUDIENCE, enough: ['WIDE1-1', 'WIDE2-1'] } } });
    renderPiece(<Paths />);
    await screen.findByText(/10 of 12 stations known here\. That is advised: a shorter path reaches clearly fewer\.$/);
    expect(screen.queryByText(/a longer path/)).toBeNull();
    expect(await chosen()).toBe('WIDE1-1,WIDE2-1');
  });

  it('stays as it began though it is reckoned otherwise meanwhile', async () => {
    stationAnswers({ 'GET /api/v1/audience': { body: AUDIENCE } });
    renderPiece(<Paths />);
    await screen.findByText(/That is enough/);
    stationAnswers({ 'GET /api/v1/audience': { body: { ...AUDIENCE, stations: 13, enough: [] } } });
    await act(again);
    await waitFor(() => screen.getByText(/In its reach: about 3 of 13 stations known here\. That is enough/));
    expect(await chosen()).toBe('WIDE1-1');
  });

  it('is the usual one of the modem where nothing is known, or it cannot be asked', async () => {
    stationAnswers({
      'GET /api/v1/audience': {
        body: { ...AUDIENCE, stations: 0, enough: null, paths: AUDIENCE.paths.map((one) => ({ ...one, expected: 0 })) },
      },
    });
    const { unmount } = renderPiece(<Paths />);
    expect(await chosen()).toBe('WIDE1-1,WIDE2-1');
    expect(screen.queryByText(/In its reach/)).toBeNull();
    unmount();
    stationAnswers({ 'GET /api/v1/audience': { status: 500, body: {} } });
    renderPiece(<Paths />);
    expect(await chosen()).toBe('WIDE1-1,WIDE2-1');
  });
});
