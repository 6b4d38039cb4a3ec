import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { StandingRule } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT, boardLink, openSettings } from '../../testing/samples';
import { RulesPlace, ruleWords } from './rules-place';

const rule: StandingRule = {
  id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3d',
  name: 'Water level',
  fromBearer: 'mesh',
  senders: ['PUMPHS'],
  toBearer: 'radio',
  to: 'QT1NC',
  hours: { from: '06:00', until: '22:00' },
  mostPerHour: 2,
  enabled: false,
  createdAt: AT,
};

describe('standing rules', () => {
  it('say in one sentence what they do, and are turned on by the operator alone', async () => {
    const asked = stationAnswers({
      'GET /api/v1/rules': { body: [rule] },
      'GET /api/v1/bearers': { body: [boardLink()] },
      [`PATCH /api/v1/rules/${rule.id}`]: { body: { ...rule, enabled: true } },
    });
    renderPiece(<RulesPlace />);
    const turn = await screen.findByRole('checkbox', { name: 'Water level' });
    expect(turn).not.toBeChecked();
    await userEvent.click(turn);
    await waitFor(() => expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({ enabled: true }));
    expect(ruleWords(rule, (id) => id)).toBe(
      'From PUMPHS on mesh to QT1NC by radio, 06:00 to 22:00 UTC, at most 2 an hour. Off.',
    );
    expect(ruleWords({ ...rule, senders: [], enabled: true }, (id) => id)).toMatch(/^From everybody .* On\.$/);
  });

  it('are changed from what they say now, and are off afterwards', async () => {
    const asked = stationAnswers({
      'GET /api/v1/rules': { body: [rule] },
      'GET /api/v1/bearers': { body: [boardLink()] },
      [`PATCH /api/v1/rules/${rule.id}`]: { body: rule },
    });
    renderPiece(<RulesPlace />);
    await userEvent.click(await screen.findByRole('button', { name: 'Change: Water level' }));
    const [to] = screen.getAllByRole('textbox', { name: 'To' });
    expect(to).toHaveValue('QT1NC');
    await userEvent.clear(to!);
    await userEvent.type(to!, 'QT6CL');
    await userEvent.click(screen.getByRole('button', { name: 'Keep it, turned off' }));
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Keep it, turned off' })).toBeNull());
    expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({
      name: 'Water level',
      fromBearer: 'mesh',
      senders: ['PUMPHS'],
      toBearer: 'radio',
      to: 'QT6CL',
      hours: { from: '06:00', until: '22:00' },
      mostPerHour: 2,
    });
  });

  it.each([
    ['Go on by a surer path', 'otherPathMin'],
    ['Go on by another bearer', 'otherBearerMin'],
  ])('of a text that nobody answers: %s, when the operator says so', async (label, field) => {
    const asked = stationAnswers({
      'GET /api/v1/rules': { body: [] },
      'GET /api/v1/bearers': { body: [] },
      'GET /api/v1/settings': { body: { ...openSettings, [field]: 30 } },
      'PATCH /api/v1/settings': { body: openSettings },
    });
    renderPiece(<RulesPlace />);
    const choice = within(await screen.findByRole('radiogroup', { name: label }));
    expect(choice.getByRole('radio', { name: 'After 30 minutes without an answer' })).toBeChecked();
    await userEvent.click(choice.getByRole('radio', { name: 'After 5 minutes without an answer' }));
    await userEvent.click(choice.getByRole('radio', { name: 'Never by itself' }));
    await waitFor(() =>
      expect(asked.filter(({ method }) => method === 'PATCH').map(({ body }) => body)).toEqual([
        { [field]: 5 },
        { [field]: null },
      ]),
    );
  });
});
