import { octetsOfText, type Fix, type ReceiverEvent } from '@tombolo/core';
import { z } from 'zod';

/** Asks gpsd for reports as JSON (gpsd_json(5), WATCH). */
export const WATCH = octetsOfText('?WATCH={"enable":true,"json":true};\n');

const number = z.number().nullable().catch(null).default(null);
/** Time, position, velocity; `mode` 2 or 3 is a fix (gpsd_json(5), TPV). */
const tpv = z.object({
  class: z.literal('TPV'),
  mode: z.number().int(),
  time: z.iso.datetime({ offset: true }).nullable().catch(null).default(null),
  lat: z.number().min(-90).max(90).nullable().catch(null).default(null),
  lon: z.number().min(-180).max(180).nullable().catch(null).default(null),
  altMSL: number,
  alt: number,
  track: number,
  /** m/s. */
  speed: number,
});
/** What is seen of the sky (gpsd_json(5), SKY). */
const sky = z.object({ class: z.literal('SKY'), hdop: number, uSat: number });
const other = z.object({ class: z.string().regex(/^(?!TPV$)/) });
const isOther = (told: unknown): boolean => other.safeParse(told).success;

const KNOTS_PER_M_S = 3600 / 1852;

/** Reads gpsd line by line; the quality comes in reports of its own and goes with the next fix. */
export function createGpsdReader(): { push(line: string): ReceiverEvent | null } {
  let quality: Pick<Fix, 'satellites' | 'hdop'> = { satellites: null, hdop: null };
  return {
    push(line) {
      // A sentence as the receiver wrote it: gpsd can pass those on beside its reports.
      if (/^[$!]/.test(line)) return null;
      let told: unknown;
      try {
        told = JSON.parse(line);
      } catch {
        return { is: 'wrong', reason: 'a line that is no JSON' };
      }
      const seen = sky.safeParse(told);
      if (seen.success) {
        quality = {
          satellites: seen.data.uSat ?? quality.satellites,
          hdop: seen.data.hdop ?? quality.hdop,
        };
        return null;
      }
      const read = tpv.safeParse(told);
      if (!read.success) return isOther(told) ? null : { is: 'wrong', reason: 'a report that is none of gpsd' };
      const { mode, lat, lon, time, altMSL, alt, track, speed } = read.data;
      if (mode < 2 || lat === null || lon === null) return { is: 'no fix' };
      return {
        is: 'fix',
        fix: {
          latitude: lat,
          longitude: lon,
          altitudeM: altMSL ?? alt,
          courseDeg: track,
          speedKnots: speed === null ? null : speed * KNOTS_PER_M_S,
          ...quality,
          toldAt: time === null ? null : new Date(time).toISOString(),
        },
      };
    },
  };
}
