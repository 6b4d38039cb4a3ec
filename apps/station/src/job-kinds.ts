import type { PositionNow, Settings } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { beaconTurn } from './beacon/beacon';
import { emergencyTurn } from './emergency/emergency';
import { BACKUP_JOB, backupTurn, type BackupPlanContext } from './backup/plan';
import type { Supervisor } from './bearers/supervisor';
import { closeCutOffUploads } from './imports/run-import';
import { judgeSilence } from './ingest/derived/alarms';
import type { HeavyFiles } from './heavy/files';
import { runRebuild } from './heavy/rebuild';
import { rebuildWanted } from './ingest/derived/rebuild';
import type { JobKind } from './jobs/job';
import { pruneJobs } from './jobs/occurrences';
import { applyRules } from './relay/rules';
import { keepMonths, type RetentionContext } from './retention/retention';
import { askForParts } from './parts/ask-turn';
import { bulletinsTurn } from './bulletins/own';
import { objectsTurn } from './objects/objects';
import { closeCutOff } from './sessions/recover';
import type { PlanningContext } from './planning/context';
import { statusTurn } from './status/status';
import { appendEvents, pruneEvents } from './store/events';
import { trackersTurn } from './trackers/trackers';
import { RULE_TURN_MS } from './traffic/by-rule';
import { otherBearerTurn } from './traffic/other-bearer';
import { otherPathTurn } from './traffic/other-path';
import { pruneAirTime } from './transmissions/account';
import { pruneDuty } from './transmissions/duty';

export const STANDING_RULES = 'standing rules';

const EVERY_5_S = 5000;
const EVERY_MINUTE = 60_000;
const EVERY_HOUR = 3600_000;
const EVERY_DAY = 24 * EVERY_HOUR;

export interface JobKindsContext {
  readonly database: DataSource;
  readonly databaseUrl: string;
  readonly heavy: HeavyFiles;
  readonly settings: () => Promise<Settings>;
  readonly positionNow: () => Promise<PositionNow>;
  readonly supervisor: Pick<Supervisor, 'holdSession' | 'freeSession'>;
  readonly retention: RetentionContext;
  readonly backupPlan: BackupPlanContext;
  readonly planning: () => Promise<PlanningContext>;
  readonly wakeOutbox: () => void;
  /** Since when this process has listened: silence before that means nothing. */
  readonly listeningSince: Date;
  readonly now: () => number;
  readonly log: (message: string) => void;
}

/** All that the station does by the clock. */
export function jobKinds(context: JobKindsContext): JobKind[] {
  const { database, settings, now, log } = context;
  const at = () => new Date(now());
  const kinds: JobKind[] = [
    {
      name: STANDING_RULES,
      everyMs: EVERY_5_S,
      missed: 'forgotten',
      async run() {
        await applyRules(database, await settings(), at(), context.planning, log);
        context.wakeOutbox();
        return undefined;
      },
    },
    {
      name: 'our own call for help',
      everyMs: EVERY_5_S,
      missed: 'forgotten',
      run: () => emergencyTurn(context),
    },
    {
      name: 'our own beacon',
      everyMs: EVERY_5_S,
      missed: 'forgotten',
      run: () => beaconTurn(context),
    },
    {
      name: 'things on the map',
      everyMs: EVERY_5_S,
      missed: 'forgotten',
      run: () => objectsTurn(context),
    },
    {
      name: 'trackers from elsewhere',
      everyMs: EVERY_5_S,
      missed: 'forgotten',
      run: () => trackersTurn(context),
    },
    {
      name: 'our own bulletins',
      everyMs: EVERY_5_S,
      missed: 'forgotten',
      run: () => bulletinsTurn(context),
    },
    {
      name: 'parts that are missing',
      everyMs: EVERY_5_S,
      missed: 'forgotten',
      run: () => askForParts(context),
    },
    {
      name: 'texts without an answer',
      everyMs: RULE_TURN_MS,
      missed: 'forgotten',
      run: () => otherPathTurn(context),
    },
    {
      name: 'texts for another bearer',
      everyMs: RULE_TURN_MS,
      missed: 'forgotten',
      run: () => otherBearerTurn(context),
    },
    {
      name: 'our own status',
      everyMs: EVERY_5_S,
      missed: 'forgotten',
      run: () => statusTurn(context),
    },
    {
      name: 'watches for silence',
      everyMs: EVERY_5_S,
      missed: 'forgotten',
      run: () =>
        database.transaction(async (manager) => {
          const events = await judgeSilence(manager, at(), context.listeningSince);
          if (events.length > 0) await appendEvents(manager, events, at());
          return undefined;
        }),
    },
    {
      name: 'what was cut off',
      everyMs: EVERY_5_S,
      missed: 'forgotten',
      async run() {
        await closeCutOff(database, context.supervisor.holdSession, context.supervisor.freeSession, at);
        await closeCutOffUploads(database, now());
        return undefined;
      },
    },
    {
      name: 'what is made anew',
      everyMs: EVERY_MINUTE,
      missed: 'forgotten',
      async run({ stopping }) {
        if (!(await rebuildWanted(database))) return undefined;
        const task = { databaseUrl: context.databaseUrl, nowMs: now() };
        const done = await runRebuild(context.heavy.rebuild, task, { stopping, log });
        return done > 0 ? `made anew from ${done} receptions` : undefined;
      },
    },
    {
      name: 'months',
      everyMs: EVERY_HOUR,
      missed: 'recorded',
      run: ({ stopping }) => keepMonths(context.retention, at(), stopping),
    },
    {
      name: BACKUP_JOB,
      everyMs: EVERY_DAY,
      missed: 'recorded',
      run: ({ dueAt }) => backupTurn(context.backupPlan, dueAt),
    },
    {
      name: 'accounts that have run out',
      everyMs: EVERY_HOUR,
      missed: 'forgotten',
      async run() {
        await pruneEvents(database);
        await pruneAirTime(database, now());
        await pruneDuty(database, now());
        await pruneJobs(database, kinds, at());
        return undefined;
      },
    },
  ];
  return kinds;
}
