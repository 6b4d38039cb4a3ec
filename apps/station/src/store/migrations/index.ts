import { Bulletins } from './bulletins';
import { BroughtBy } from './brought-by';
import { ByMonth } from './by-month';
import { ByThemselves } from './by-themselves';
import { Emergencies } from './emergencies';
import { Equipment } from './equipment';
import { Forwarding } from './forwarding';
import { FourWays } from './four-ways';
import { Initial } from './initial';
import { ItemRevisions } from './item-revisions';
import { MeshFrames } from './mesh-frames';
import { OwnObjects } from './own-objects';
import { Names } from './names';
import { NothingFalse } from './nothing-false';
import { NothingLost } from './nothing-lost';
import { HoursByKey } from './hours-by-key';
import { Reckoned } from './reckoned';
import { Planning } from './planning';
import { ReadyCheck } from './ready-check';
import { Services } from './services';
import { SessionRecord } from './session-record';
import { SettingsParted } from './settings-parted';
import { Trackers } from './trackers';
import { WholePicture } from './whole-picture';

/** In order; forward only. */
export const migrations = [
  Initial,
  FourWays,
  WholePicture,
  NothingLost,
  NothingFalse,
  MeshFrames,
  ByMonth,
  ByThemselves,
  SessionRecord,
  SettingsParted,
  ItemRevisions,
  Equipment,
  ReadyCheck,
  Emergencies,
  OwnObjects,
  Trackers,
  Services,
  Bulletins,
  Names,
  Planning,
  HoursByKey,
  Reckoned,
  Forwarding,
  BroughtBy,
];
