import { checkMessageText, parseAddress } from '@tombolo/core';
import { settingsChange } from '@tombolo/contract';
import { bulletins, demoSettings, screens, scriptedTexts, stations } from './index';

describe('the demo district', () => {
  const calls = Object.values(stations).map((station) => station.call as string);
  it('uses only calls that can be nobody’s', () => {
    for (const call of calls) {
      expect(call).toMatch(/^Q/);
      expect(parseAddress(call).ok).toBe(true);
    }
  });
  it('says only what can be sent, from stations that exist', () => {
    for (const { text, from, to } of scriptedTexts) {
      expect(checkMessageText(text)).toEqual({ ok: true, value: text });
      expect(calls).toEqual(expect.arrayContaining([from, to]));
    }
    for (const { text } of bulletins) expect(checkMessageText(text).ok).toBe(true);
    for (const screen of screens) expect(calls).toEqual(expect.arrayContaining([screen.of]));
  });
  it('leaves the transmitter locked', () => {
    expect(settingsChange.parse(demoSettings)).not.toHaveProperty('licenceConfirmed');
  });
});
