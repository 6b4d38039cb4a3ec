import type { SettingsChange } from '@tombolo/contract';
import { stations } from './stations';

/** Settings of the demo operator; the two questions that hold the transmitter are left to the user. */
export const demoSettings: SettingsChange = {
  call: 'QT2AR',
  ssid: 7,
  region: 'americas',
  position: stations.own.position,
  voiceMHz: 146.52,
};
