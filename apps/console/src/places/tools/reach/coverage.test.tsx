import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { PACKET_SETTINGS } from '@tombolo/core';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { workHere, type WorkHere } from '../../../testing/work-here';
import { covered } from './covered';
import { Coverage } from './coverage';

const mockWorks: WorkHere[] = [];
jest.mock('./coverage-worker', () => ({ coverageWorker: () => mockWorks.shift() }));

const END = { antennaM: 6, powerW: 10, gainDbi: 2, clutterDb: 0 };
const SIDE = 201;
const heights = Buffer.from(new Int16Array(SIDE * SIDE).fill(5).buffer).toString('base64');
const open = (ground: { status?: number; body: unknown } = { body: { heights, missing: ['N41W044'] } }) => {
  const asked = stationAnswers({ 'GET /api/v1/reach/ground': ground });
  renderPiece(
    <Coverage
      from={{ words: 'this station', latitude: 41.2, longitude: -43.4 }}
      ends={{ from: END, to: END }}
      frequencyMHz={145}
      settings={PACKET_SETTINGS}
      stations={[{ call: 'QT1NC', latitude: 41.21, longitude: -43.42 }]}
    />,
  );
  return asked;
};
const draw = async () => {
  await userEvent.click(screen.getByRole('radio', { name: '10 km' }));
  await userEvent.click(screen.getByRole('button', { name: 'Draw where it is heard' }));
};

describe('where it is heard', () => {
  it('is reckoned when it is asked for, with its progress, and told in words beside the picture', async () => {
    const work = workHere(covered);
    mockWorks.push(work);
    const asked = open();
    expect(asked.some(({ path }) => path.includes('/reach/ground'))).toBe(false);
    await draw();
    expect(await work.step(30)).toBe(true);
    expect(await screen.findByText(/^\d+ % is reckoned\.$/)).toBeInTheDocument();
    const query = new URLSearchParams(asked.find(({ path }) => path.includes('/reach/ground'))!.path.split('?')[1]);
    expect([query.get('columns'), query.get('rows')]).toEqual(['201', '201']);
    await work.run();
    const list = await screen.findByRole('list', { name: 'Where it is heard, in square kilometres' });
    expect(
      within(list)
        .getAllByRole('listitem')
        .map((row) => row.textContent),
    ).toEqual([
      expect.stringMatching(/^Well heardfilled; 4\d\d km² of land, 0\.0 km² of sea$/),
      expect.stringMatching(/^Mostly heardclose lines; /),
      expect.stringMatching(/^Now and then heardwide lines; /),
      expect.stringMatching(/^Hardly heardplain; /),
    ]);
    expect(screen.getByText('this station, 1200 baud, two tones on FM, within 10 km')).toBeInTheDocument();
    expect(screen.getByText(/N41W044\.hgt/)).toBeInTheDocument();
    // What is chosen anew is not what was drawn.
    expect(screen.queryByText(/has changed since/)).toBeNull();
    await userEvent.click(screen.getByRole('radio', { name: '9600 baud, shifted carrier' }));
    expect(screen.getByText(/has changed since this was drawn/)).toBeInTheDocument();
  });

  it('can be stopped, and then is not reckoned on', async () => {
    const work = workHere(covered);
    mockWorks.push(work);
    open();
    await draw();
    await work.step(10);
    await userEvent.click(await screen.findByRole('button', { name: 'Stop drawing' }));
    expect(work.ended).toBe(true);
    expect(screen.queryByText(/is reckoned/)).toBeNull();
    expect(screen.queryByRole('list', { name: /square kilometres/ })).toBeNull();
  });

  it('says why it cannot be: the ground is refused, or no worker starts', async () => {
    open({
      status: 500,
      body: { type: 'about:blank', title: 'It failed', status: 500, code: 'x', detail: 'No room.' },
    });
    await draw();
    expect(await screen.findByText('No room.')).toBeInTheDocument();
  });

  it('says so where the worker fails', async () => {
    const work = workHere(covered);
    mockWorks.push(work);
    open();
    await draw();
    await work.asked();
    work.fail();
    expect(await screen.findByText(/could not be loaded, or failed/)).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: 'Stop drawing' })).toBeNull();
  });
});
