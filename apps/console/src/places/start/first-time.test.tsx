import { screen } from '@testing-library/react';
import { router } from 'expo-router';
import { defaultSettings, type BearerView, type Settings } from '@tombolo/contract';
import { usePreferences } from '../../live/preferences';
import { useBearers, useSettings } from '../../live/queries';
import { renderPiece, stationAnswers } from '../../testing/render';
import { modemLink } from '../../testing/samples';
import { Body } from '../../ui/text';
import { FirstTime } from './first-time';

jest.mock('expo-router', () => ({ router: { replace: jest.fn() } }));

function Opened({ path }: { path: string }) {
  const known = [useSettings().data, useBearers().data].every(Boolean);
  return (
    <>
      <FirstTime path={path} />
      {known ? <Body>known</Body> : null}
    </>
  );
}
const open = async (path: string, settings: Partial<Settings> = {}, bearers: BearerView[] = []) => {
  jest.mocked(router.replace).mockClear();
  stationAnswers({
    'GET /api/v1/settings': { body: { ...defaultSettings, ...settings } },
    'GET /api/v1/bearers': { body: bearers },
  });
  const { unmount } = renderPiece(<Opened path={path} />);
  await screen.findByText('known');
  unmount();
  return jest.mocked(router.replace).mock.calls.map(([href]) => href);
};

describe('a station of which nothing is known', () => {
  it('leads to its first steps, when no other place was asked for', async () => {
    expect(await open('/traffic')).toEqual(['/start']);
    expect(await open('/chart')).toEqual([]);
  });
  it('is none with a call or a bearer, nor where the steps were left', async () => {
    expect(await open('/traffic', { call: 'QT2AR' })).toEqual([]);
    expect(await open('/traffic', {}, [modemLink()])).toEqual([]);
    usePreferences.getState().prefer({ firstStepsOver: true });
    expect(await open('/traffic')).toEqual([]);
  });
});
