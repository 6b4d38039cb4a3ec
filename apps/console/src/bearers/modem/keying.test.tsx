import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { kissTcpConfig } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { modemLink } from '../../testing/samples';
import { kissTcp } from '../kiss-tcp/kiss-tcp';
import { Keying } from './keying';

const bearer = modemLink();
const config = kissTcpConfig.parse(bearer.config);
const enter = async (label: string, text: string) => {
  const field = screen.getByRole('textbox', { name: label });
  await userEvent.clear(field);
  if (text !== '') await userEvent.type(field, text);
};

describe('how a modem is keyed', () => {
  it('is said on its card and changed there; what cannot be is said at its field and not sent', async () => {
    const asked = stationAnswers({ [`PATCH /api/v1/bearers/${bearer.id}`]: { body: bearer } });
    renderPiece(<Keying bearer={bearer} config={config} />);
    expect(
      screen.getByText('Transmit delay 300 ms, persistence 25 %, slot 100 ms; usual path WIDE1-1,WIDE2-1.'),
    ).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Change delay or path: Modem' }));
    await enter('Transmit delay, ms', 'long');
    await enter('Usual path', 'QT0TH-99');
    await userEvent.click(screen.getByRole('button', { name: 'Save delay and path: Modem' }));
    expect(await screen.findByText('milliseconds, from 0 to 2550')).toBeTruthy();
    expect(screen.getByRole('textbox', { name: 'Usual path' })).toHaveAttribute('aria-invalid', 'true');
    expect(asked).toEqual([]);
    await enter('Transmit delay, ms', '450');
    await enter('Usual path', 'qt0th-3 wide2-1');
    await userEvent.click(screen.getByRole('button', { name: 'Save delay and path: Modem' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PATCH')?.body).toEqual({
        config: { ...config, txDelayMs: 450, path: ['QT0TH-3', 'WIDE2-1'] },
      }),
    );
  });

  it('is asked when a modem is added, with what usually holds', () => {
    const initial = Object.fromEntries(kissTcp.form.fields.map(({ name, initial: text = '' }) => [name, text]));
    const configOf = (texts: Record<string, string>) => kissTcp.form.config({ texts, switches: {}, over: '' });
    expect(kissTcpConfig.parse(configOf(initial))).toMatchObject({
      txDelayMs: 300,
      persistencePercent: 25,
      slotMs: 100,
      path: ['WIDE1-1', 'WIDE2-1'],
      frequencyMHz: null,
    });
    expect(kissTcpConfig.parse(configOf({ ...initial, frequencyMHz: '144,8', usualPath: '' }))).toMatchObject({
      frequencyMHz: 144.8,
      path: [],
    });
    const wrong = kissTcpConfig.safeParse(
      configOf({ ...initial, frequencyMHz: 'fast', txDelayMs: '', persistencePercent: '0' }),
    );
    expect(wrong.error?.issues.map(({ path, message }) => [path[0], message])).toEqual([
      ['frequencyMHz', 'a frequency in MHz, such as 144.800'],
      ['txDelayMs', 'milliseconds, from 0 to 2550'],
      ['persistencePercent', 'per cent, from 1 to 100'],
    ]);
  });
});
