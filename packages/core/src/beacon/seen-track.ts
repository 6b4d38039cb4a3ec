import { planeAt } from './plane';
import { motionOf, type TrackPoint } from './scheme';

/** A place on a plane, metres east and north of the first point of the track. */
export interface PlanePoint {
  readonly east: number;
  readonly north: number;
}

/** A track from above: how it ran, and what others make of the reports. */
export interface SeenTrack {
  readonly way: readonly PlanePoint[];
  /** From where each report says that we are to where others believe us until the next one. */
  readonly believed: readonly { readonly from: PlanePoint; readonly to: PlanePoint }[];
}

const MS_PER_KNOT = 1852 / 3600;

/** What others see of a track, `most` points of it at most; `sentAtMs` when reports went out, as `runScheme` gives them. */
export function seenTrack(track: readonly TrackPoint[], sentAtMs: readonly number[], most: number): SeenTrack {
  const [first] = track;
  if (!first) return { way: [], believed: [] };
  const onPlane = planeAt(first);
  const step = Math.max(1, Math.ceil(track.length / most));
  const way = track.filter((_, n) => n % step === 0 || n === track.length - 1).map((point) => onPlane(point));
  const sent = new Set(sentAtMs);
  const reports = track.filter(({ atMs }) => sent.has(atMs));
  const endMs = track.at(-1)!.atMs;
  const believed = reports.map((report, n) => {
    const from = onPlane(report);
    const motion = motionOf(report);
    if (!motion) return { from, to: from };
    const run = (motion.speedKnots * MS_PER_KNOT * ((reports[n + 1]?.atMs ?? endMs) - report.atMs)) / 1000;
    const course = (motion.courseDeg * Math.PI) / 180;
    return { from, to: { east: from.east + run * Math.sin(course), north: from.north + run * Math.cos(course) } };
  });
  return { way, believed };
}
