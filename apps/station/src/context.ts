import type { DataSource } from 'typeorm';
import type { Settings } from '@tombolo/contract';
import type { PipelineContext } from './ingest/pipeline';
import type { Sessions } from './sessions/manager';

/** What routes may use of the station. */
export interface StationContext {
  readonly database: DataSource;
  readonly version: string;
  readonly simulationUrl: string | null;
  readonly now: () => number;
  readonly log: (message: string) => void;
  readonly settings: () => Promise<Settings>;
  readonly settingsChanged: () => void;
  readonly bearersChanged: () => Promise<void>;
  readonly wakeOutbox: () => void;
  readonly rulesChanged: () => void;
  readonly sessions: Sessions;
  readonly pipeline: PipelineContext;
}
