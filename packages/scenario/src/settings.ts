import { defaultSettings, type SettingsChange } from '@tombolo/contract';
import { people } from './people';
import { FREQUENCY_MHZ, stations } from './stations';

/** Settings of the demo operator; the two questions that hold the transmitter are left to the user. */
export const demoSettings: SettingsChange = {
  call: 'QT2AR',
  ssid: 7,
  region: 'americas',
  frequencyMHz: FREQUENCY_MHZ,
  path: defaultSettings.path,
  position: stations.own.position,
  voiceMHz: 146.52,
  people: [...people],
};
