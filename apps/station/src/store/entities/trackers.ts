import type { TrackerChange, TrackerReport } from '@tombolo/contract';
import { instant, json, key, maybe, table, text, uuid } from '../table';

/** A unit that a web feed tells of, and how it is shown. */
export const TrackerEntity = table('tracker', {
  unit: key(text()),
  shown: json<TrackerChange>(),
  report: json<TrackerReport>(),
  objectId: uuid(),
  changedAt: instant(),
});

/** When the feed was asked last, and what was wrong with its answer. */
export const TrackerFeedEntity = table('tracker_feed', {
  url: key(text()),
  askedAt: instant(),
  fault: maybe(text()),
});
