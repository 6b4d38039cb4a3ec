import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { HeardBulletin, OwnBulletinView } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT, modemLink, openSettings } from '../../../testing/samples';
import { BulletinsPlace } from './bulletins-place';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const ID = '6f1f2d0a-4a52-4a6e-9c0e-2f5d1f0b7a1';
const GALE: HeardBulletin = {
  item: `${ID}1`,
  sender: 'QT1NC',
  sort: 'bulletin',
  line: '4',
  group: 'WX',
  text: 'Gale from the west by 1800Z',
  firstAt: AT,
  lastAt: AT,
  times: 3,
  distanceKm: 13.2,
  over: false,
  replaced: false,
};
const NET: OwnBulletinView = {
  id: `${ID}2`,
  line: '1',
  group: '',
  text: 'Net at 1900Z',
  bearerId: 'radio',
  path: ['WIDE1-1'],
  everyMin: 20,
  until: AT,
  revision: 2,
  endedAt: null,
  live: true,
  times: 1,
  lastAt: AT,
  stopped: null,
};
const answers = (more = {}, settings = openSettings) =>
  stationAnswers({
    'GET /api/v1/settings': { body: settings },
    'GET /api/v1/bearers': { body: [modemLink()] },
    'GET /api/v1/own-bulletins': { body: [] },
    'GET /api/v1/bulletins': { body: [] },
    ...more,
  });
const written = (asked: ReturnType<typeof answers>) => asked.filter(({ method }) => method !== 'GET');
const press = (name: string | RegExp) =>
  screen.findByRole('button', { name }).then((button) => userEvent.click(button));
const enter = async (name: string, text: string) => {
  await userEvent.clear(screen.getByRole('textbox', { name }));
  if (text !== '') await userEvent.type(screen.getByRole('textbox', { name }), text);
};

describe('bulletins', () => {
  it('that were heard say their line, from where, how often, and which are over', async () => {
    const over = { ...GALE, item: `${ID}3`, line: '2', group: null, over: true, text: 'Old' };
    answers({
      'GET /api/v1/bulletins': {
        body: [
          { ...GALE, item: `${ID}4`, sort: 'warning', line: 'WARN', group: null, distanceKm: null, times: 1 },
          GALE,
          over,
          { ...over, item: `${ID}5`, sort: 'announcement', line: 'B', replaced: true },
        ],
      },
    });
    renderPiece(<BulletinsPlace />);
    const list = await screen.findByRole('list', { name: 'Heard bulletins' });
    const rows = within(list)
      .getAllByRole('listitem')
      .map((row) => row.textContent!);
    expect(rows[0]).toMatch(/^Weather warning, WARNGale.*QT1NC · heard 1 time · last .* ago$/);
    expect(rows[1]).toMatch(/^Bulletin 4 for WXGale.*QT1NC · 13 km · heard 3 times · last/);
    expect(rows[2]).toMatch(/^Bulletin 2 – over/);
    expect(rows[3]).toMatch(/^Announcement B – replaced by a later one/);
    expect(within(list).getAllByRole('link')[1]).toHaveAttribute('href', `/traffic/${GALE.item}`);
    expect(screen.getByText('Nothing of ours is told to everybody now.')).toBeInTheDocument();
  });

  it('of ours follow the habit of their line until something else is entered, each complaint at its field', async () => {
    const asked = answers();
    renderPiece(<BulletinsPlace />);
    expect(await screen.findByText('No bulletin heard')).toBeInTheDocument();
    await press('Write a bulletin');
    expect(screen.getByRole('textbox', { name: 'Told again every, min' })).toHaveValue('20');
    expect(screen.getByRole('textbox', { name: 'For how long, h' })).toHaveValue('4');
    await enter('Line', 'c');
    expect(screen.getByRole('textbox', { name: 'Told again every, min' })).toHaveValue('60');
    expect(screen.getByRole('textbox', { name: 'For how long, h' })).toHaveValue('24');
    await enter('For how long, h', '0');
    await press('Tell everybody');
    expect(screen.getByText('the text is empty')).toBeInTheDocument();
    expect(screen.getByText('1 to 168 whole hours')).toBeInTheDocument();
    await enter('Text', 'Meeting on Sunday');
    await enter('Group', 'sound');
    await press('Tell everybody: Announcement C for SOUND, every 60 min');
    expect(written(asked)).toEqual([]);
    await enter('For how long, h', '48');
    const before = Date.now();
    await press(/^Tell everybody: /);
    await waitFor(() => expect(written(asked)).toHaveLength(1));
    // The station writes it in capitals.
    const { until, ...body } = written(asked)[0]!.body as { until: string };
    expect(body).toMatchObject({ line: 'c', group: 'sound', text: 'Meeting on Sunday', everyMin: 60, revision: null });
    expect(Math.round((Date.parse(until) - before) / 3_600_000)).toBe(48);
  });

  it('of a line that is used take its place only on purpose', async () => {
    const asked = answers();
    const fetching = globalThis.fetch;
    globalThis.fetch = (async (path: string, init?: RequestInit) => {
      const answer = await fetching('/api/v1/settings');
      if (init?.method !== 'PUT') return fetching(path, init);
      const body = JSON.parse(String(init.body)) as { replace: boolean };
      asked.push({ path, method: 'PUT', body });
      const refusal = { type: 'tombolo:line-used', title: 'Line 1 is used', status: 409, detail: 'Take another.' };
      return body.replace
        ? { ...answer, json: async () => NET }
        : { ok: false, status: 409, json: async () => refusal };
    }) as unknown as typeof fetch;
    renderPiece(<BulletinsPlace />);
    await press('Write a bulletin');
    await enter('Text', 'Net at 1900Z');
    await press(/^Tell everybody: Bulletin 1, every 20 min/);
    expect(await screen.findByText('Line 1 is used')).toBeInTheDocument();
    await press('Put it in its place');
    await waitFor(() => expect(screen.queryByRole('textbox', { name: 'Line' })).toBeNull());
    expect(written(asked).map(({ body }) => (body as { replace: boolean }).replace)).toEqual([false, true]);
  });

  it('are changed from the state that was shown, taken back at two presses, and told again as new ones', async () => {
    const asked = answers({
      'GET /api/v1/own-bulletins': { body: [NET, { ...NET, id: `${ID}6`, line: '2', live: false, text: 'Over' }] },
      [`PUT /api/v1/own-bulletins/${NET.id}`]: { body: NET },
      [`POST /api/v1/own-bulletins/${NET.id}/end`]: { body: NET },
    });
    renderPiece(<BulletinsPlace />);
    await press('Change: Bulletin 1');
    await press(/^Tell everybody: Bulletin 1/);
    await waitFor(() => expect(written(asked)[0]?.body).toMatchObject({ revision: 2, text: 'Net at 1900Z' }));
    await press('Tell it no more: Bulletin 1');
    await press('Tell it no more for good: Bulletin 1');
    await waitFor(() => expect(written(asked)[1]?.body).toEqual({ revision: 2 }));
    await press('Tell it again: Bulletin 2');
    await press(/^Tell everybody: Bulletin 2/);
    await waitFor(() => expect(written(asked)[2]?.body).toMatchObject({ revision: null, text: 'Over' }));
    expect(written(asked)[2]!.path).not.toContain(`${ID}6`);
  });

  it('of groups that are not ours are put away, which is said and kept', async () => {
    const asked = answers({ 'PATCH /api/v1/settings': { body: openSettings } });
    renderPiece(<BulletinsPlace />);
    await screen.findByRole('textbox', { name: 'Groups that are for us' });
    await enter('Groups that are for us', 'wx, toolong');
    expect(screen.getByText('a group has one to five letters or digits')).toBeInTheDocument();
    await enter('Groups that are for us', 'wx, Sound, WX');
    await press('Save the groups');
    await waitFor(() => expect(written(asked)[0]?.body).toEqual({ bulletinGroups: ['WX', 'SOUND'] }));
    await enter('Groups that are for us', '');
    await press('Save the groups');
    await waitFor(() => expect(written(asked)[1]?.body).toEqual({ bulletinGroups: null }));
  });
});
