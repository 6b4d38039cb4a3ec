import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { StandingRule } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { AT, boardLink } from '../../testing/samples';
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
});
