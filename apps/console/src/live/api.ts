import type {
  BearerConfig,
  ItemAction,
  NewBearer,
  NewWatch,
  Person,
  PersonChange,
  ReadingsView,
  SettingsChange,
  Simulation,
  StationChange,
  WatchChange,
} from '@tombolo/contract';
import { bearerRoutes } from '@tombolo/contract/routes/bearers';
import { heardRoutes } from '@tombolo/contract/routes/heard';
import { peopleRoutes } from '@tombolo/contract/routes/people';
import { positionRoutes } from '@tombolo/contract/routes/position';
import { stationRoutes } from '@tombolo/contract/routes/station';
import { trafficRoutes } from '@tombolo/contract/routes/traffic';
import { watchRoutes } from '@tombolo/contract/routes/watches';
import { ask, urlOf } from './ask';

export interface HeardQuery {
  text?: string;
  station?: string;
  kind?: string;
  bearerId?: string;
  importId?: string;
  from?: string;
  to?: string;
}

/**
 * The station's API, by the routes of the contract, as far as the first screen asks it. Building the schemas of a subject takes a slow phone some
 * hundredths of a second: each other subject has a file of its own beside this one, and what one place alone asks stands by that place.
 */
export const api = {
  health: () => ask(stationRoutes.health, {}),
  settings: () => ask(stationRoutes.settings, {}),
  beaconNow: () => ask(positionRoutes.beaconNow, {}),
  waypointsNow: () => ask(positionRoutes.waypointsNow, {}),
  positionNow: () => ask(positionRoutes.positionNow, {}),
  changeSettings: (body: SettingsChange) => ask(stationRoutes.changeSettings, { body }),
  items: (query: { with?: string; text?: string; before?: string | null; limit?: number }) =>
    ask(trafficRoutes.items, { query }),
  openItems: () => ask(trafficRoutes.openItems, {}),
  transmissions: (query: { before?: string | null; limit?: number }) => ask(trafficRoutes.transmissions, { query }),
  item: (id: string) => ask(trafficRoutes.item, { params: { id } }),
  fileItems: (ids: readonly string[], filed: boolean) =>
    ask(trafficRoutes.fileItems, { body: { ids: [...ids], filed } }),
  act: (id: string, action: ItemAction) => ask(trafficRoutes.act, { params: { id }, body: { action } }),
  packets: (query: HeardQuery & { before?: string | null; limit?: number }) =>
    ask(heardRoutes.packets, { query: { ...query } }),
  packet: (id: string) => ask(heardRoutes.packet, { params: { id } }),
  failures: (query: { importId?: string; before?: string | null; limit?: number }) =>
    ask(heardRoutes.failures, { query }),
  stations: (since?: string) => ask(heardRoutes.stations, { query: { since } }),
  station: (call: string) => ask(heardRoutes.station, { params: { call } }),
  changeStation: (call: string, body: StationChange) => ask(heardRoutes.changeStation, { params: { call }, body }),
  trails: (hours: number, since?: string) => ask(heardRoutes.trails, { query: { hours, since } }),
  heardLinks: () => ask(heardRoutes.heardLinks, {}),
  readings: (kind: ReadingsView['kind'], hours: number) => ask(heardRoutes.readings, { query: { kind, hours } }),
  watches: () => ask(watchRoutes.watches, {}),
  addWatch: (body: NewWatch) => ask(watchRoutes.addWatch, { body }),
  changeWatch: (id: string, body: WatchChange) => ask(watchRoutes.changeWatch, { params: { id }, body }),
  removeWatch: (id: string) => ask(watchRoutes.removeWatch, { params: { id } }),
  alarms: () => ask(watchRoutes.alarms, {}),
  takeAlarm: ({ id, by }: { id: string; by: string }) => ask(watchRoutes.takeAlarm, { params: { id }, body: { by } }),
  seeAlarm: (id: string) => ask(watchRoutes.seeAlarm, { params: { id } }),
  bearers: () => ask(bearerRoutes.bearers, {}),
  addBearer: (body: NewBearer) => ask(bearerRoutes.addBearer, { body }),
  switchBearer: (id: string, enabled: boolean) => ask(bearerRoutes.changeBearer, { params: { id }, body: { enabled } }),
  changeBearer: (id: string, config: BearerConfig, name?: string) =>
    ask(bearerRoutes.changeBearer, { params: { id }, body: { config, ...(name !== undefined && { name }) } }),
  invitation: (id: string, channel: string) => ask(bearerRoutes.invitation, { params: { id }, body: { channel } }),
  removeBearer: (id: string) => ask(bearerRoutes.removeBearer, { params: { id } }),
  waiting: () => ask(bearerRoutes.waiting, {}),
  dropWaiting: (ids: readonly string[]) => ask(bearerRoutes.dropWaiting, { body: { ids: [...ids] } }),
  hold: () => ask(bearerRoutes.hold, {}),
  holdEverything: (held: boolean) => ask(bearerRoutes.changeHold, { body: { held } }),
  kept: () => ask(stationRoutes.kept, {}),
  people: () => ask(peopleRoutes.people, {}),
  keepPerson: ({ id, ...body }: Pick<Person, 'id'> & PersonChange) =>
    ask(peopleRoutes.keepPerson, { params: { id }, body }),
  removePerson: (id: string) => ask(peopleRoutes.removePerson, { params: { id } }),
  attachmentUrl: (id: string) => urlOf(trafficRoutes.attachment, { params: { id } }),
  messageUrl: (id: string) => urlOf(trafficRoutes.message, { params: { id } }),
  simulation: () => ask(stationRoutes.simulation, {}),
  setSpeed: (speed: Simulation['speed']) => ask(stationRoutes.changeSimulation, { body: { speed } }),
};
