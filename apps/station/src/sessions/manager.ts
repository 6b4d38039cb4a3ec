import { randomUUID } from 'node:crypto';
import { ownStation, type BearerConfig, type newSession, type SessionView, type Settings } from '@tombolo/contract';
import type { LinkStream } from '@tombolo/link-stream';
import type { DataSource } from 'typeorm';
import type { z } from 'zod';
import { ProblemError } from '../problem-error';
import { rowsOf, storable } from '../store/database';
import { BearerEntity } from '../store/entities';
import { appendEvents } from '../store/events';
import type { Dialogue } from './dialogue';
import { calledBy } from './called-kinds';
import { provingPacket } from './proof';
import { closeCutOffOn } from './recover';
import type { SessionContext } from './session';
import { runTerminal } from './terminal';

export interface SessionsContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly connect: (bearerId: string, peer: string, path: readonly string[]) => LinkStream;
  /** The place of a session with a bearer: one in the world. */
  readonly hold: (bearerId: string) => Promise<boolean>;
  readonly free: (bearerId: string) => Promise<void>;
  /** Why nothing may go out by bearers of a kind now; null when it may. */
  readonly closed: (kind: BearerConfig['kind']) => string | null;
  /** When all that was heard so far is stored. */
  readonly stored: () => Promise<void>;
  readonly now: () => number;
  readonly log: (message: string) => void;
}

export interface Sessions {
  start(request: z.output<typeof newSession>): Promise<SessionView>;
  /** Ends a session; what was done so far stays. */
  stop(id: string): Promise<SessionView>;
  /** A line typed at a terminal. */
  type(id: string, line: string): Promise<SessionView>;
  view(id: string): Promise<SessionView>;
  list(bearerId: string): Promise<SessionView[]>;
  stopAll(): Promise<void>;
}

const TELL_EVERY_MS = 250;
const MOST_RECORD = 60_000;
const MOST_LISTED = 20;

interface Running {
  view: SessionView;
  stream: LinkStream | null;
  dialogue: Dialogue | null;
  /** Octets that had crossed when the present stage began. */
  stageFrom: number;
  crossed: number;
  stopping: boolean;
  /** Ends a pause at once. */
  wake: () => void;
  finished: Promise<void>;
}

/** How long a place is waited for that is taken for a moment only, ms. */
const PAUSES_FOR_PLACE_MS = [50, 100, 200, 400, 800] as const;

/** Sessions with boards and gateways: one at a time on each, their progress told to the consoles, their record kept. */
export function createSessions(context: SessionsContext): Sessions {
  const running = new Map<string, Running>();
  const toldAt = new Map<string, number>();
  const iso = () => new Date(context.now()).toISOString();

  const tell = (id: string, bearerId: string, force = false) => {
    const now = context.now();
    if (!force && now - (toldAt.get(id) ?? 0) < TELL_EVERY_MS) return;
    toldAt.set(id, now);
    void context.database
      .transaction((manager) => appendEvents(manager, [{ type: 'session', data: { id, bearerId } }], new Date(now)))
      .catch((error: Error) => context.log(`session event: ${error.message}`));
  };
  const save = (view: SessionView) =>
    context.database.query(
      `insert into session_run (id, bearer_id, kind, started_at, ended_at, stage, done_octets, total_octets, problem, record)
       values ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10)
       on conflict (id) do update set ended_at = $5, stage = $6, done_octets = $7, total_octets = $8, problem = $9, record = $10`,
      [
        view.id,
        view.bearerId,
        view.kind,
        view.startedAt,
        view.endedAt,
        view.stage,
        view.doneOctets,
        view.totalOctets,
        view.problem === null ? null : storable(view.problem),
        storable(view.record),
      ],
    );
  const stored = async (id: string): Promise<SessionView> => {
    const [row] = await rowsOf<Row>(context.database, 'select * from session_run where id = $1', [id]);
    if (!row)
      throw new ProblemError(404, 'no-such-session', 'That session does not exist', `There is no session ${id}.`);
    return viewOf(row);
  };
  const of = (id: string): Running => {
    const session = running.get(id);
    if (!session) throw new ProblemError(409, 'session-over', 'That session is over', 'Start a new one to go on.');
    return session;
  };

  /**
   * The place of a session with a bearer; false when another one has it. Whoever closes what a killed process left has it too, for a
   * moment: that is waited for, so that nobody is told of a session that nobody holds.
   */
  const placeOn = async (bearerId: string): Promise<boolean> => {
    for (const pauseMs of PAUSES_FOR_PLACE_MS) {
      if (await context.hold(bearerId)) return true;
      if ([...running.values()].some(({ view }) => view.bearerId === bearerId)) return false;
      await new Promise((resolve) => setTimeout(resolve, pauseMs));
    }
    return context.hold(bearerId);
  };

  const end = (session: Running): void => {
    session.stopping = true;
    session.stream?.destroy();
    session.wake();
  };

  return {
    async start(request) {
      const row = await context.database.getRepository(BearerEntity).findOneBy({ id: request.bearerId });
      const called = row && calledBy(row.config);
      if (!row || !called)
        throw new ProblemError(422, 'no-sessions', 'No sessions are held there', 'Choose a board or a mail gateway.');
      const settings = await context.settings();
      const closed = context.closed(row.config.kind);
      const own = ownStation(settings);
      if (closed !== null || own === null)
        throw new ProblemError(409, 'transmit-locked', 'The transmitter is locked', closed ?? 'No call sign is set.');
      if (!(await placeOn(row.id)))
        throw new ProblemError(409, 'session-runs', 'A session runs already', `One at a time with ${row.name}.`);
      const id = randomUUID();
      const session: Running = {
        view: {
          id,
          bearerId: row.id,
          kind: request.kind,
          startedAt: iso(),
          endedAt: null,
          stage: 'beginning',
          doneOctets: 0,
          totalOctets: 0,
          problem: null,
          record: '',
        },
        stream: null,
        dialogue: null,
        stageFrom: 0,
        crossed: 0,
        stopping: false,
        wake: () => undefined,
        finished: Promise.resolve(),
      };
      const change = (more: Partial<SessionView>, force = false) => {
        session.view = { ...session.view, ...more };
        tell(id, row.id, force);
      };
      const sessionContext: SessionContext = {
        id,
        bearerId: row.id,
        database: context.database,
        now: () => new Date(context.now()),
        own,
        request,
        connect: () => (session.stream = context.connect(called.over, called.call, called.path)),
        // What the other side said stands without it: a look that fails must not make it a failure.
        proof: async () =>
          session.stream
            ? provingPacket(context.database, session.stream, own, context.stored, context.now).catch(() => null)
            : null,
        stage(words, totalOctets = 0) {
          session.stageFrom = session.crossed;
          change({ stage: words, doneOctets: 0, totalOctets }, true);
        },
        done(octets) {
          session.crossed = octets;
          const { totalOctets } = session.view;
          change({ doneOctets: totalOctets > 0 ? Math.min(totalOctets, octets - session.stageFrom) : 0 });
        },
        text: (text) => change({ record: (session.view.record + text).slice(-MOST_RECORD) }),
        stopped: () => session.stopping,
        pause: (ms) =>
          new Promise((resolve) => {
            const timer = setTimeout(resolve, ms);
            session.wake = () => {
              clearTimeout(timer);
              resolve();
            };
          }),
      };
      running.set(id, session);
      try {
        // Nobody else has the place: what is still open there was left by a process that was killed. It is closed, and what waits goes in this one.
        await closeCutOffOn(context.database, row.id, new Date(context.now()));
        await save(session.view);
      } catch (error) {
        running.delete(id);
        await context.free(row.id);
        throw error;
      }
      const work =
        request.kind === 'terminal'
          ? runTerminal(sessionContext, called.call, (dialogue) => (session.dialogue = dialogue))
          : called.run(sessionContext);
      // Whoever sees that it ended may start the next one: the end is shown when the record is kept and the place is free.
      const finish = async (end: Pick<SessionView, 'stage' | 'problem'>) => {
        const view = { ...session.view, ...end, endedAt: iso() };
        await save(view).catch((error: Error) => context.log(`session record: ${error.message}`));
        session.view = view;
        running.delete(id);
        await context.free(row.id);
        tell(id, row.id, true);
        toldAt.delete(id);
      };
      session.finished = work.then(
        () => finish({ stage: 'done', problem: null }),
        (error: Error) =>
          finish(
            session.stopping
              ? { stage: 'stopped by you', problem: null }
              : { stage: 'ended early', problem: `${error.message}. What was done before is kept.` },
          ),
      );
      tell(id, row.id, true);
      return session.view;
    },
    async stop(id) {
      const session = of(id);
      end(session);
      await session.finished;
      return stored(id);
    },
    async type(id, line) {
      const session = of(id);
      if (!session.dialogue)
        throw new ProblemError(
          409,
          'no-terminal',
          'Nothing can be typed there',
          'It is not connected yet, or no terminal.',
        );
      session.dialogue.send(`${line.replace(/[\r\n]+/g, ' ')}\r\n`);
      return session.view;
    },
    view: async (id) => running.get(id)?.view ?? (await stored(id)),
    async list(bearerId) {
      const rows = await rowsOf<Row>(
        context.database,
        'select * from session_run where bearer_id = $1 order by started_at desc limit $2',
        [bearerId, MOST_LISTED],
      );
      return rows.map((row) => running.get(row.id)?.view ?? viewOf(row));
    },
    async stopAll() {
      for (const session of running.values()) end(session);
      await Promise.all([...running.values()].map(({ finished }) => finished));
    },
  };
}

interface Row {
  id: string;
  bearer_id: string;
  kind: SessionView['kind'];
  started_at: Date;
  ended_at: Date | null;
  stage: string;
  done_octets: number;
  total_octets: number;
  problem: string | null;
  record: string;
}

const viewOf = (row: Row): SessionView => ({
  id: row.id,
  bearerId: row.bearer_id,
  kind: row.kind,
  startedAt: row.started_at.toISOString(),
  // Without an end it runs in another process, or is about to be closed as cut off.
  endedAt: row.ended_at?.toISOString() ?? null,
  stage: row.stage,
  doneOctets: row.done_octets,
  totalOctets: row.total_octets,
  problem: row.problem,
  record: row.record,
});
