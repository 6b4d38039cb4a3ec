import { pathHops } from '@tombolo/core';
import { OWN_TRIES_DAYS } from '@tombolo/contract';
import type { RepeatedRow } from '../../apps/station/src/planning/own-repeats';
import type { LinkRow } from '../../apps/station/src/planning/link-rows';
import { AROUND_MS, type TriedRow } from '../../apps/station/src/planning/own-tries';
import { firstIdAt } from '../../apps/station/src/store/moments';
import type { Flooded } from './flood';

const HOUR_MS = 3_600_000;
const WITHIN_MS = 48 * HOUR_MS;
const TRIED_WITHIN_MS = OWN_TRIES_DAYS * 24 * HOUR_MS;

/** A try as it was made. */
type Tried = Omit<TriedRow, 'heard_before' | 'heard_after'>;

/** What one station has written down of what it heard and sent, as the program keeps it. */
export class Book {
  private readonly links = new Map<string, LinkRow & { hours: Record<string, [number, number, number]> }>();
  private tried: Tried[] = [];
  private readonly heardAt = new Map<string, number[]>();
  private repeated: RepeatedRow[] = [];
  /** How each was heard last, for advice by that alone. */
  readonly lastHeard = new Map<string, readonly string[]>();
  /** Over how many digipeaters the last packet of each asked to go, for answers that come as those do. */
  readonly theirHops = new Map<string, number>();

  constructor(private readonly own: string) {}

  /** A packet of somebody else, by the copies that were received here, in their order. */
  hear(from: string, { heard }: Flooded, nowMs: number): void {
    const copies = heard(this.own);
    if (copies.length === 0) return;
    const seen = new Set<string>();
    for (const { by, via } of copies) {
      const road = [from, ...via];
      // The last one was heard here; of the rest the path tells.
      this.count(by, this.own, by === from, 0, nowMs, seen);
      for (let n = 0; n + 1 < road.length; n++) this.count(road[n]!, road[n + 1]!, n === 0, 1, nowMs, seen);
    }
    if (copies[0]!.by !== from) this.count(from, this.own, true, 2, nowMs, seen);
    const times = this.heardAt.get(from) ?? [];
    times.push(nowMs);
    this.heardAt.set(from, times);
    this.lastHeard.set(from, copies[0]!.via);
    this.theirHops.set(from, copies[0]!.via.length + pathHops(copies[0]!.left));
  }

  /** A packet of ours that came back from a digipeater tells that it was heard there. */
  ownCopies({ heard }: Flooded, first: string | undefined, nowMs: number): void {
    const copies = heard(this.own);
    for (const { by } of copies) this.count(by, this.own, false, 0, nowMs, new Set());
    if (first !== undefined)
      this.repeated.push({ first, at: new Date(nowMs), by: [...new Set(copies.map(({ via }) => via[0]!))] });
  }

  /** A transmission that asked for an answer, how often it was sent, and whether it was answered. */
  sent(to: string, path: readonly string[], sent: number, answered: boolean, beganMs: number, lastMs: number): void {
    this.tried.push({
      to_call: to,
      node: null,
      path: [...path],
      created_at: new Date(beganMs),
      sent,
      last: new Date(lastMs),
      answered,
    });
  }

  rows(nowMs: number): LinkRow[] {
    return [...this.links.values()]
      .filter(({ last_at }) => last_at.getTime() > nowMs - WITHIN_MS)
      .sort((a, b) => +b.last_at - +a.last_at);
  }

  triedRows(to: string, nowMs: number): readonly TriedRow[] {
    this.tried = this.tried.filter(({ created_at }) => created_at.getTime() > nowMs - TRIED_WITHIN_MS);
    const times = this.heardAt.get(to) ?? [];
    return this.tried
      .filter(({ to_call, created_at }) => to_call === to && created_at.getTime() < nowMs)
      .map((row) => {
        const atMs = row.created_at.getTime();
        const before = times.findLast((time) => time <= atMs && time >= atMs - AROUND_MS);
        const after = times.find((time) => time >= atMs && time <= Math.min(nowMs, atMs + AROUND_MS));
        const idOf = (time: number | undefined) => (time === undefined ? null : firstIdAt(time));
        return { ...row, heard_before: idOf(before), heard_after: idOf(after) };
      });
  }

  repeatedRows(nowMs: number): readonly RepeatedRow[] {
    this.repeated = this.repeated.filter(({ at }) => at.getTime() > nowMs - WITHIN_MS / 2);
    return this.repeated;
  }

  private count(from: string, by: string, first: boolean, kind: 0 | 1 | 2, nowMs: number, seen: Set<string>): void {
    const key = `${from}>${by}`;
    if (seen.has(`${key} ${kind === 2}`)) return;
    seen.add(`${key} ${kind === 2}`);
    const at = new Date(nowMs);
    const before = this.links.get(key);
    const row = before ?? {
      from_call: from,
      by_call: by,
      count: 0,
      first_count: 0,
      hours: {},
      first_at: at,
      last_at: at,
    };
    const hour = Math.floor(nowMs / HOUR_MS);
    const seenThen = (row.hours[hour] ??= [0, 0, 0]);
    seenThen[kind]++;
    for (const old of Object.keys(row.hours)) if (Number(old) <= hour - 48) delete row.hours[old];
    if (kind !== 2) {
      row.count++;
      if (first) row.first_count++;
      row.last_at = at;
    }
    this.links.set(key, row);
  }
}
