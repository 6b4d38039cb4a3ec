import type { StationView } from '@tombolo/contract';
import { symbolMeaning, type SymbolMeaning } from '@tombolo/core';
import type { IconName } from '../../ui/icon';

/** Our drawing of each meaning, from one general icon family. */
export const SYMBOL_ICONS: Readonly<Record<SymbolMeaning, IconName>> = {
  aircraft: 'airplane',
  ambulance: 'ambulance',
  balloon: 'airballoon-outline',
  bicycle: 'bike',
  board: 'bulletin-board',
  boat: 'ferry',
  bus: 'bus',
  car: 'car',
  digipeater: 'radio-tower',
  emergency: 'alert-octagram-outline',
  fire: 'fire',
  flooding: 'home-flood',
  gateway: 'swap-horizontal-circle-outline',
  hospital: 'hospital-box-outline',
  house: 'home-outline',
  motorcycle: 'motorbike',
  'net control': 'account-group-outline',
  person: 'walk',
  phone: 'phone-outline',
  police: 'shield-outline',
  'sailing boat': 'sail-boat',
  satellite: 'satellite-variant',
  school: 'school-outline',
  shelter: 'tent',
  storm: 'weather-hurricane',
  train: 'train',
  truck: 'truck-outline',
  warning: 'alert-outline',
  'water level': 'waves',
  weather: 'weather-windy',
  other: 'map-marker-outline',
};

export const meaningOf = ({ symbol, relaysAt }: Pick<StationView, 'symbol' | 'relaysAt'>): SymbolMeaning =>
  symbol ? symbolMeaning({ table: symbol[0]!, code: symbol[1] ?? ' ' }) : relaysAt !== null ? 'digipeater' : 'other';
