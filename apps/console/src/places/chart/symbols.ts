import type { StationView } from '@tombolo/contract';
import { symbolMeaning, type SymbolMeaning } from '@tombolo/core';
import type { IconName } from '../../ui/icon';

/** Our drawing of each meaning, from one general icon family. */
export const SYMBOL_ICONS: Readonly<Record<SymbolMeaning, IconName>> = {
  'aid station': 'medical-bag',
  aircraft: 'airplane',
  ambulance: 'ambulance',
  antenna: 'antenna',
  area: 'vector-square',
  balloon: 'airballoon-outline',
  bicycle: 'bike',
  board: 'bulletin-board',
  boat: 'ferry',
  buoy: 'map-marker-radius-outline',
  bus: 'bus',
  camp: 'campfire',
  car: 'car',
  church: 'church-outline',
  computer: 'laptop',
  digipeater: 'radio-tower',
  emergency: 'alert-octagram-outline',
  fire: 'fire',
  flooding: 'home-flood',
  gateway: 'swap-horizontal-circle-outline',
  hospital: 'hospital-box-outline',
  house: 'home-outline',
  lighthouse: 'lighthouse',
  motorcycle: 'motorbike',
  'net control': 'account-group-outline',
  node: 'lan',
  person: 'walk',
  pharmacy: 'pill',
  phone: 'phone-outline',
  police: 'shield-outline',
  post: 'mailbox-outline',
  repeater: 'radio-handheld',
  'sailing boat': 'sail-boat',
  satellite: 'satellite-variant',
  school: 'school-outline',
  shelter: 'tent',
  sign: 'sign-direction',
  storm: 'weather-hurricane',
  store: 'store-outline',
  train: 'train',
  truck: 'truck-outline',
  warning: 'alert-outline',
  'water level': 'waves',
  weather: 'weather-windy',
  other: 'map-marker-outline',
};

/** Reported by a station, rather than on the air itself. */
export const isReported = ({ kind }: Pick<StationView, 'kind'>): boolean => kind === 'object' || kind === 'item';

export const meaningOf = ({
  symbol,
  relaysAt,
  kind,
}: Pick<StationView, 'symbol' | 'relaysAt' | 'kind'>): SymbolMeaning =>
  kind === 'node'
    ? 'node'
    : symbol
      ? symbolMeaning({ table: symbol[0]!, code: symbol[1] ?? ' ' })
      : relaysAt !== null
        ? 'digipeater'
        : 'other';
