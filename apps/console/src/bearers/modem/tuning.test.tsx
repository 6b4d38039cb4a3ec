import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { BearerConfig } from '@tombolo/contract';
import { renderPiece, stationAnswers } from '../../testing/render';
import { modemLink } from '../../testing/samples';
import { frequencyOf, Tuning } from './tuning';

const link = (frequencyHz: number | null, before: number[] = []) => modemLink({ tuned: { frequencyHz, before } });
const show = (bearer: ReturnType<typeof link>) =>
  renderPiece(<Tuning bearer={bearer} config={bearer.config as BearerConfig<'kiss-tcp'>} />);
const answers = (bearer: ReturnType<typeof link>) =>
  stationAnswers({ [`PATCH /api/v1/bearers/${bearer.id}`]: { body: bearer } });
const told = (asked: ReturnType<typeof answers>) =>
  asked.flatMap(({ method, body }) => (method === 'PATCH' ? [(body as { config: unknown }).config] : []));

describe('a frequency as it is typed', () => {
  it.each([
    ['144.800', 144.8],
    [' 145,825 ', 145.825],
    ['', null],
    ['0.5', null],
    ['fast', null],
  ])('%j is %s', (text, frequency) => expect(frequencyOf(text)).toBe(frequency));
});

describe('what a radio is tuned to', () => {
  it('is changed with one press to where it was before', async () => {
    const bearer = link(144_390_000, [145_825_000, 144_800_000]);
    const asked = answers(bearer);
    show(bearer);
    expect(screen.getByText('Tuned to 144.390 MHz.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: /I retuned to 144\.800 MHz/ }));
    await waitFor(() => expect(told(asked)).toEqual([{ ...bearer.config, frequencyMHz: 144.8 }]));
  });

  it('is typed where it is new, and what is none is not sent', async () => {
    const bearer = link(null);
    const asked = answers(bearer);
    show(bearer);
    expect(screen.getByText(/is not known: what is heard cannot be told by frequency/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: /Say its frequency/ }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Tuned to, MHz' }), '14480');
    await userEvent.click(screen.getByRole('button', { name: /It is tuned to that/ }));
    expect(await screen.findByText('a frequency in MHz, such as 144.800')).toBeTruthy();
    expect(told(asked)).toEqual([]);
    await userEvent.clear(screen.getByRole('textbox', { name: 'Tuned to, MHz' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Tuned to, MHz' }), '144,8');
    await userEvent.click(screen.getByRole('button', { name: /It is tuned to that/ }));
    await waitFor(() => expect(told(asked)).toEqual([{ ...bearer.config, frequencyMHz: 144.8 }]));
  });
});
