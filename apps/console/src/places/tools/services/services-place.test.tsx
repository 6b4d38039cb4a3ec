import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ServiceText } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { AT } from '../../../testing/samples';
import { DESK, PHONE } from '../../../testing/services';
import { ServicesPlace } from './services-place';
import { fieldsFor, serviceForm, writtenOf } from './written-service';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const answers = (more: Record<string, { status?: number; body: unknown }> = {}) =>
  stationAnswers({ 'GET /api/v1/services': { body: [DESK, PHONE] }, ...more });
const press = (name: string | RegExp) =>
  screen.findByRole('button', { name }).then((button) => userEvent.click(button));
const fill = async (name: string, words: string) => {
  const field = screen.getByRole('textbox', { name });
  await userEvent.clear(field);
  fireEvent.change(field, { target: { value: words } });
};
const { revision: _revision, ...phone } = PHONE;

describe('what is written of a service', () => {
  it('is the service again when it is read', () => {
    for (const one of [DESK, PHONE]) {
      const { revision: _, ...service } = one;
      expect(serviceForm.parse(writtenOf(one))).toEqual(service);
    }
  });

  it('has each complaint at its field', () => {
    const written = writtenOf(PHONE);
    const [command] = written.commands;
    const wrong = serviceForm.safeParse({
      ...written,
      name: '',
      commands: [{ ...command!, id: 'Text', withinMin: 'soon', cautions: 'x'.repeat(300) }],
    });
    expect(wrong.error?.issues.map(({ path }) => path.join('.')).sort()).toEqual([
      'commands.0.cautions',
      'commands.0.id',
      'commands.0.withinMin',
      'name',
    ]);
  });

  it('takes its fields from the template, and leaves those that were there as they are', () => {
    const [to] = writtenOf(PHONE).commands[0]!.fields;
    expect(fieldsFor('{to} AT {where}[: {text}]', [to!])).toEqual([
      to,
      { id: 'where', title: 'where', kind: 'group', offers: '', optional: false },
      { id: 'text', title: 'Text', kind: 'text', offers: '', optional: true },
    ]);
    expect(fieldsFor('{to', [to!])).toEqual([to]);
  });
});

describe('the directory of services', () => {
  it('is listed, and a service is changed as it was looked at', async () => {
    const asked = answers({ 'PUT /api/v1/services/TELTXT': { body: PHONE } });
    renderPiece(<ServicesPlace />);
    expect(await screen.findByText('TELTXT · behind QT1GW-10')).toBeInTheDocument();
    await press('Change: Phone text');
    await fill('Name', '');
    await press('Save the service');
    expect(await screen.findByText('Name: it is missing')).toBeInTheDocument();
    expect(screen.getByRole('textbox', { name: 'Name' })).toHaveAttribute('aria-invalid', 'true');
    await fill('Name', 'Phones');
    await press('Save the service');
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({
        service: { ...phone, name: 'Phones' },
        revision: 3,
      }),
    );
    await waitFor(() => expect(screen.queryByRole('heading', { name: 'Change Phone text' })).toBeNull());
  });

  it('keeps what was entered when the station refuses it', async () => {
    const detail = 'TELTXT is not as you looked at it. Nothing was changed; look at it again.';
    const body = { type: 'tombolo:changed-meanwhile', title: 'Somebody else changed it', status: 409, detail };
    answers({ 'PUT /api/v1/services/TELTXT': { status: 409, body } });
    renderPiece(<ServicesPlace />);
    await press('Change: Phone text');
    await fill('Name', 'Phones');
    await press('Save the service');
    expect(await screen.findByText(detail)).toBeInTheDocument();
    expect(screen.getByRole('textbox', { name: 'Name' })).toHaveValue('Phones');
  });

  it('gives back what was taken off', async () => {
    const asked = answers({
      'DELETE /api/v1/services/TELTXT': { status: 204, body: null },
      'PUT /api/v1/services/TELTXT': { body: PHONE },
    });
    renderPiece(<ServicesPlace />);
    await press('Remove: Phone text');
    await press('Put back: Phone text');
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({ service: phone, revision: null }),
    );
  });

  it('makes a pattern of what it did not know, and shows before what that would match', async () => {
    const said = (id: string, text: string, known: number | null): ServiceText => ({
      id: `0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c${id}`,
      at: AT,
      text,
      known,
      asked: { to: '005550142', text: 'Hello' },
    });
    const texts = [
      said('01', 'Held 005550142 until 1400', null),
      said('02', 'Held 005550177 until 1500', null),
      said('03', 'Text to 1 taken', 0),
    ];
    const asked = answers({
      'GET /api/v1/services/TELTXT/texts': { body: texts },
      'POST /api/v1/services/TELTXT/trials': { body: { matches: [texts[0]!.id, texts[1]!.id], of: 3 } },
      'PUT /api/v1/services/TELTXT': { body: PHONE },
    });
    renderPiece(<ServicesPlace />);
    await press('What it said: Phone text');
    expect(await screen.findByText('3 texts lately, of which 2 no pattern knows.')).toBeInTheDocument();
    await press('Make a pattern of it: Held 005550142 until 1400');
    expect(screen.getByRole('textbox', { name: 'Pattern' })).toHaveValue('^Held (?<to>\\d+) until \\d+$');
    const made = screen.getByRole('group', { name: 'A new pattern' });
    expect(await within(made).findByText('It would know 2 of the last 3:')).toBeInTheDocument();
    expect(within(made).getByText('– Held 005550177 until 1500')).toBeInTheDocument();
    await press('Keep the pattern');
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({
        service: {
          ...phone,
          answers: [...phone.answers, { pattern: '^Held (?<to>\\d+) until \\d+$', proves: 'taken', of: [] }],
        },
        revision: 3,
      }),
    );
  });
});
