import { screen } from '@testing-library/react';
import { renderPiece, stationAnswers } from '../testing/render';
import { meshLink, modemLink, openSettings } from '../testing/samples';
import { LockedBanner, lockedWords } from './locked';

jest.mock('expo-router', () => ({ router: { navigate: jest.fn() } }));

const feed = modemLink({ id: 'feed', config: { kind: 'line-feed', host: 'x', port: 1, answerOver: null } });

describe('a locked transmitter', () => {
  it('is said on every place, with the way to change it', async () => {
    stationAnswers({
      'GET /api/v1/settings': { body: { ...openSettings, antennaConfirmed: false } },
      'GET /api/v1/bearers': { body: [modemLink()] },
    });
    renderPiece(<LockedBanner />);
    const banner = await screen.findByRole('link', { name: /^Locked: nothing is transmitted/ });
    expect(banner).toHaveAttribute('href', '/tools/settings');
  });

  it('is named where others may send: a mesh needs no licence', () => {
    const unlicensed = { ...openSettings, licenceConfirmed: false };
    expect(lockedWords([modemLink(), meshLink()], unlicensed)).toEqual({
      words: 'Locked: nothing goes out by Modem',
      why: 'You have not said that your licence covers this transmission.',
    });
    expect(lockedWords([meshLink()], unlicensed)).toBeNull();
    expect(lockedWords([modemLink(), modemLink({ id: 'b' }), meshLink()], unlicensed)?.words).toBe(
      'Locked: nothing goes out by Modem and 1 more',
    );
    expect(lockedWords([modemLink(), meshLink()], { ...openSettings, antennaConfirmed: false })?.words).toBe(
      'Locked: nothing is transmitted',
    );
  });

  it('is nothing where nothing could send, or all may', () => {
    const closed = { ...openSettings, antennaConfirmed: false };
    expect(lockedWords([], closed)).toBeNull();
    expect(lockedWords([feed, modemLink({ enabled: false })], closed)).toBeNull();
    expect(lockedWords([modemLink(), meshLink()], openSettings)).toBeNull();
  });
});
