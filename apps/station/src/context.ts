import type { DataSource } from 'typeorm';
import type { HoldView, PositionNow, Settings, Storing } from '@tombolo/contract';
import type { BackupAccess } from './backup/access';
import type { BackupPlanContext } from './backup/plan';
import type { Supervisor } from './bearers/supervisor';
import type { HeavyFiles } from './heavy/files';
import type { PipelineContext } from './ingest/ingest';
import type { WaypointSender } from './position/waypoints-out';
import type { RetentionContext } from './retention/retention';
import type { Sessions } from './sessions/manager';

/** What routes may use of the station. */
export interface StationContext {
  readonly database: DataSource;
  readonly version: string;
  readonly simulationUrl: string | null;
  readonly backup: BackupAccess | null;
  readonly backupPlan: BackupPlanContext;
  readonly heavy: HeavyFiles;
  readonly now: () => number;
  readonly log: (message: string) => void;
  readonly settings: () => Promise<Settings>;
  /** Settles when what was changed holds for everything that goes out. */
  readonly settingsChanged: () => Promise<void>;
  /** Where the station is now, by what is set to tell it. */
  readonly positionNow: () => Promise<PositionNow>;
  readonly waypoints: Pick<WaypointSender, 'view'>;
  readonly bearersChanged: () => Promise<void>;
  readonly bearers: Pick<Supervisor, 'running' | 'liveState'>;
  readonly wakeOutbox: () => void;
  readonly rulesChanged: () => void;
  readonly backupPlanChanged: () => void;
  readonly sessions: Sessions;
  readonly pipeline: PipelineContext;
  readonly retention: RetentionContext;
  readonly storing: () => Storing;
  readonly lastEvent: () => number;
  /** Holds everything that would go out, or lets it go on. */
  readonly hold: (held: boolean) => Promise<HoldView>;
  readonly holdView: () => Promise<HoldView>;
}
