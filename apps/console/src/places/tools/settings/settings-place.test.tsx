import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { defaultSettings, settings as settingsSchema, type Settings } from '@tombolo/contract';
import { fakeGeolocation } from '../../../testing/geolocation';
import { renderPiece, stationAnswers } from '../../../testing/render';
import { usePreferences } from '../../../live/preferences';
import { readPlace } from './place';
import { forgetUnsaved } from '../../../ui/unsaved';
import { SettingsForm, SettingsPlace } from './settings-place';

const settings: Settings = {
  ...defaultSettings,
  call: 'QT2AR',
  region: 'americas',
};

describe('a position', () => {
  it('is read as degrees or as a locator', () => {
    expect(readPlace(' 41.2690, -43.2850 ')).toEqual({ ok: true, position: { latitude: 41.269, longitude: -43.285 } });
    expect(readPlace('')).toEqual({ ok: true, position: null });
    const locator = readPlace('JN58td');
    expect(locator.ok && locator.position?.latitude).toBeCloseTo(48.14583, 4);
  });
  it('that cannot be is refused with what to write', () => {
    expect(readPlace('91 0')).toMatchObject({ ok: false, reason: expect.stringContaining('latitude') });
    expect(readPlace('somewhere')).toMatchObject({ ok: false, reason: expect.stringContaining('locator') });
  });
});

describe('the settings', () => {
  beforeEach(forgetUnsaved);

  it('warn of a retry that digipeaters would drop', async () => {
    stationAnswers({});
    renderPiece(<SettingsForm settings={settingsSchema.parse(settings)} />);
    expect(screen.queryByText(/^Digipeaters drop/)).toBeNull();
    const first = screen.getByRole('textbox', { name: 'First retry after, s' });
    await userEvent.clear(first);
    await userEvent.type(first, '20');
    expect(await screen.findByText(/^Digipeaters drop what they repeated in the last 30 s/)).toBeTruthy();
  });

  it('refuse a call sign that is none, beside the field, and keep what was typed', async () => {
    const asked = stationAnswers({});
    renderPiece(<SettingsForm settings={settingsSchema.parse(settings)} />);
    const call = screen.getByRole('textbox', { name: 'Call sign' });
    await userEvent.clear(call);
    await userEvent.type(call, 'Q!');
    await userEvent.click(screen.getByRole('button', { name: 'Save settings' }));
    await waitFor(() => expect(call).toHaveAttribute('aria-invalid', 'true'));
    expect(call).toHaveValue('Q!');
    // Whoever is told what is wrong stands where it is put right.
    await waitFor(() => expect(call).toHaveFocus());
    expect(await screen.findByText(/^Not saved: one field wants another look/)).toBeTruthy();
    // By its name: the field itself may be far up the page.
    expect(screen.getByText(/^Call sign: ./)).toBeTruthy();
    expect(asked.filter(({ method }) => method !== 'GET')).toEqual([]);
  });

  it('take numbers and places as people type them', async () => {
    const asked = stationAnswers({ 'PATCH /api/v1/settings': { body: settings } });
    renderPiece(<SettingsForm settings={settingsSchema.parse(settings)} />);
    const enter = async (name: string, text: string) => {
      const field = screen.getByRole('textbox', { name });
      await userEvent.clear(field);
      await userEvent.type(field, text);
    };
    await enter('Position', '41° 16.14′ N 43° 17.10′ W');
    await enter('Voice frequency, MHz', '146,52');
    await userEvent.click(screen.getByRole('button', { name: 'Save settings' }));
    await waitFor(() =>
      expect(asked.find(({ method }) => method === 'PATCH')?.body).toMatchObject({
        position: { latitude: 41.269, longitude: expect.closeTo(-43.285, 6) },
        voiceMHz: 146.52,
      }),
    );
  });

  it('are sent whole', async () => {
    const asked = stationAnswers({ 'PATCH /api/v1/settings': { body: { ...settings, region: 'europe' } } });
    renderPiece(<SettingsForm settings={settingsSchema.parse(settings)} />);
    await userEvent.click(screen.getByRole('radio', { name: 'Europe' }));
    await userEvent.click(screen.getByRole('button', { name: 'Save settings' }));
    await screen.findByText('Saved');
    expect(asked.find(({ method }) => method === 'PATCH')?.body).toMatchObject({
      region: 'europe',
      call: 'QT2AR',
      retry: settings.retry,
    });
  });

  it('of this device are kept here, at once, and are not sent', async () => {
    const asked = stationAnswers({ 'GET /api/v1/settings': { body: settings } });
    renderPiece(<SettingsPlace />);
    await screen.findByRole('textbox', { name: 'Call sign' });
    await userEvent.click(screen.getByRole('radio', { name: 'Nautical miles' }));
    expect(usePreferences.getState().distanceUnit).toBe('nmi');
    await userEvent.click(screen.getByRole('checkbox', { name: 'Show local time beside UTC' }));
    expect(JSON.parse(localStorage.getItem('tombolo-preferences')!).state).toEqual({
      distanceUnit: 'nmi',
      localTimes: true,
      singleKeys: true,
      initials: '',
      unansweredMin: null,
      firstStepsOver: false,
    });
    expect(asked.filter(({ method }) => method !== 'GET')).toEqual([]);
    expect(screen.getByRole('button', { name: 'Save settings' })).toHaveAttribute('aria-disabled', 'true');
  });

  it('take the voice frequency and whether questions are answered', async () => {
    const asked = stationAnswers({
      'PATCH /api/v1/settings': { body: { ...settings, voiceMHz: 146.52, answerQueries: true } },
    });
    renderPiece(<SettingsForm settings={settingsSchema.parse(settings)} />);
    const voice = screen.getByRole('textbox', { name: 'Voice frequency, MHz' });
    await userEvent.type(voice, 'loud');
    await userEvent.tab();
    expect(await screen.findByText('a frequency in MHz, such as 146.520')).toBeTruthy();
    await userEvent.clear(voice);
    await userEvent.type(voice, '146.52');
    await userEvent.click(screen.getByRole('checkbox', { name: 'Answer questions of other stations automatically' }));
    await userEvent.click(screen.getByRole('radio', { name: 'power boat' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Status' }), 'On the ferry');
    await userEvent.click(screen.getByRole('button', { name: 'Save settings' }));
    await screen.findByText('Saved');
    expect(asked.find(({ method }) => method === 'PATCH')?.body).toMatchObject({
      voiceMHz: 146.52,
      answerQueries: true,
      symbol: '/s',
      statusText: 'On the ferry',
    });
  });

  it('take the position from this device, and say why there is none', async () => {
    const device = fakeGeolocation();
    try {
      const asked = stationAnswers({ 'PATCH /api/v1/settings': { body: settings } });
      renderPiece(<SettingsForm settings={settingsSchema.parse(settings)} />);
      const take = screen.getByRole('button', { name: 'Take it from this device' });
      await userEvent.click(take);
      await act(async () => device.fail(1));
      expect(await screen.findByText(/The browser may not tell where this device is/)).toBeTruthy();
      expect(screen.getByRole('textbox', { name: 'Position' })).toHaveValue('');
      await userEvent.click(take);
      await act(async () => device.move(41.26904, -43.28501));
      await waitFor(() => expect(screen.getByRole('textbox', { name: 'Position' })).toHaveValue('41.2690 -43.2850'));
      expect(screen.getByText(/^Locator GN81ig/)).toBeTruthy();
      expect(screen.queryByText(/may not tell/)).toBeNull();
      await userEvent.click(screen.getByRole('button', { name: 'Save settings' }));
      await waitFor(() =>
        expect(asked.find(({ method }) => method === 'PATCH')?.body).toMatchObject({
          position: { latitude: 41.269, longitude: -43.285 },
        }),
      );
    } finally {
      device.remove();
    }
  });
});
