import { beaconPlan, type BeaconPlan } from '@tombolo/contract';
import { readDecimal, readWhole, type BeaconScheme } from '@tombolo/core';
import type { z } from 'zod';
import { pathElements } from '../../../bearers/packets/plan';

/** The form of a plan: texts, in the units that people think in. */
export interface WrittenPlan {
  readonly by: BeaconScheme['by'];
  readonly everyMin: string;
  readonly everyM: string;
  readonly withinM: string;
  readonly leastS: string;
  readonly mostMin: string;
  readonly comment: string;
  /** Elements of the far path; empty for none. */
  readonly farPath: string;
  readonly farNth: string;
}

/** What is proposed to somebody without a plan: by error, so that the channel carries what others cannot reckon. */
export const PROPOSED: WrittenPlan = {
  by: 'error',
  everyMin: '30',
  everyM: '1000',
  withinM: '250',
  leastS: '60',
  mostMin: '30',
  comment: '',
  farPath: '',
  farNth: '5',
};

const minutes = (seconds: number): string => String(seconds / 60);

export function writtenOf(plan: BeaconPlan | null): WrittenPlan {
  if (!plan) return PROPOSED;
  const { scheme, comment, far } = plan;
  const distant = far ? { farPath: far.path.join(','), farNth: String(far.everyNth) } : {};
  const base = { ...PROPOSED, by: scheme.by, comment, ...distant };
  if (scheme.by === 'time') return { ...base, everyMin: minutes(scheme.everyS) };
  const between = { leastS: String(scheme.leastS), mostMin: minutes(scheme.mostS) };
  return scheme.by === 'distance'
    ? { ...base, ...between, everyM: String(scheme.everyM) }
    : { ...base, ...between, withinM: String(scheme.withinM) };
}

function schemeOf({ by, everyMin, everyM, withinM, leastS, mostMin }: WrittenPlan): unknown {
  const between = { leastS: readWhole(leastS), mostS: Math.round(readDecimal(mostMin) * 60) };
  if (by === 'time') return { by, everyS: Math.round(readDecimal(everyMin) * 60) };
  return by === 'distance'
    ? { by, everyM: readDecimal(everyM), ...between }
    : { by, withinM: readDecimal(withinM), ...between };
}

/** Where the contract's schema complains, by the field of the form. */
const FIELD: Readonly<Record<string, keyof WrittenPlan>> = {
  everyS: 'everyMin',
  everyM: 'everyM',
  withinM: 'withinM',
  leastS: 'leastS',
  mostS: 'mostMin',
  comment: 'comment',
  everyNth: 'farNth',
};

/** The plan that is written, or what is wrong with it, by field. */
export function readPlan(
  written: WrittenPlan,
  way: Pick<BeaconPlan, 'bearerId' | 'path'> & Partial<Pick<BeaconPlan, 'ambiguity'>>,
): { plan: BeaconPlan } | { faults: Partial<Record<keyof WrittenPlan, string>> } {
  const farPath = pathElements(written.farPath);
  const far = farPath.length > 0 ? { path: farPath, everyNth: readWhole(written.farNth) } : null;
  const read = beaconPlan.safeParse({ ...way, scheme: schemeOf(written), comment: written.comment, far });
  if (read.success) return { plan: read.data };
  const faults: Partial<Record<keyof WrittenPlan, string>> = {};
  for (const { path, message } of (read.error as z.ZodError).issues) {
    const field = FIELD[String(path.at(-1))] ?? (path[0] === 'far' ? 'farPath' : 'comment');
    faults[field] ??= message;
  }
  return { faults };
}

/** `every 2 min`, `by error of 250 m, 60 s to 30 min`. */
export function schemeWords(scheme: BeaconScheme): string {
  const span = (seconds: number) => (seconds % 60 === 0 && seconds >= 120 ? `${seconds / 60} min` : `${seconds} s`);
  if (scheme.by === 'time') return `every ${span(scheme.everyS)}`;
  const between = `${span(scheme.leastS)} to ${span(scheme.mostS)}`;
  return scheme.by === 'distance'
    ? `every ${scheme.everyM} m, ${between}`
    : `when others are off by ${scheme.withinM} m, ${between}`;
}
