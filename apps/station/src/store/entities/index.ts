import * as air from './air';
import * as bearers from './bearers';
import * as bulletins from './bulletins';
import * as hearing from './hearing';
import * as keeping from './keeping';
import * as objects from './objects';
import * as planning from './planning';
import * as ready from './ready';
import * as services from './services';
import * as settings from './settings';
import * as trackers from './trackers';
import * as traffic from './traffic';

export { OwnBulletinEntity } from './bulletins';
export { BearerEntity, type BearerRow } from './bearers';
export { BackupRunEntity, ImportEntity, MapChunkEntity, MapLayerEntity, type ImportRow } from './keeping';
export { OwnObjectEntity } from './objects';
export { CheckRunEntity, OwnCauseEntity } from './ready';
export {
  AuditEntity,
  EquipmentEntity,
  PersonAddressEntity,
  PersonBroughtByEntity,
  PersonEntity,
  SettingEntity,
  SheetTickEntity,
  StandingRuleEntity,
  TacticalNameEntity,
  type StandingRuleRow,
} from './settings';
export { AnswerOfferEntity, ServiceEntity } from './services';
export { TrackerEntity, TrackerFeedEntity } from './trackers';
export { ItemEntity, LegEntity, type ItemRow, type LegDetail, type LegRow } from './traffic';

/** Every table of the database; a test compares them with what the migrations made. */
export const entities = [
  air,
  bearers,
  bulletins,
  hearing,
  keeping,
  objects,
  planning,
  ready,
  services,
  settings,
  trackers,
  traffic,
].flatMap((subject) => Object.values(subject));
