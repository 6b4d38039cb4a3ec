import { octetsOfText } from '../octets';
import { fail, ok, type Parsed } from '../result';
import { encodeUncompressedPosition, type PositionToSend } from './position/encode';

/** What fits behind a position without a data extension (Protocol Reference 1.0.1, ch. 8). */
export const MOST_POSITION_COMMENT_OCTETS = 43;

/** What fits behind a position with course and speed (ch. 8). */
export const MOST_MOVING_COMMENT_OCTETS = 36;

/** What some digital-voice gateways pass of a comment; the rest is cut off there. (Common practice, no source.) */
export const MOST_VOICE_GATEWAY_COMMENT_OCTETS = 27;

/** Digits of the minutes that are left blank on purpose, the last ones first (Protocol Reference 1.0.1, ch. 6, position ambiguity). */
export const AMBIGUITIES = [0, 1, 2, 3, 4] as const;
export type Ambiguity = (typeof AMBIGUITIES)[number];

/** A minute of latitude, km. */
const MINUTE_KM = 1.852;
/** What the last digit that is left stands for, minutes. */
const TOLD_MIN: Readonly<Record<Ambiguity, number>> = { 0: 0.01, 1: 0.1, 2: 1, 3: 10, 4: 60 };

/** Side from north to south of the area that others see us in, km. */
export const ambiguityKm = (ambiguity: Ambiguity): number => TOLD_MIN[ambiguity] * MINUTE_KM;

/** What stands right behind a position in this form is course and speed (ch. 7, data extensions). */
const READS_AS_MOTION = /^[\d. ]{3}\/[\d. ]{3}/;

/** A comment that may go out: one line, without the characters that switch channels of a modem (ch. 5), as long as there is room. */
export function checkPositionComment(comment: string): Parsed<string> {
  const at = comment.search(/[\u0000-\u001f\u007f|~]/);
  if (at >= 0)
    return fail(at, `${/[|~]/.test(comment[at]!) ? `“${comment[at]}”` : 'a control character'} cannot be sent`);
  if (READS_AS_MOTION.test(comment)) return fail(0, 'it would be read as course and speed: begin with a word');
  const octets = octetsOfText(comment).length;
  return octets > MOST_POSITION_COMMENT_OCTETS
    ? fail(MOST_POSITION_COMMENT_OCTETS, `${octets} of ${MOST_POSITION_COMMENT_OCTETS} octets: shorten it`)
    : ok(comment);
}

/** Information field of our own position, without time, from a station that takes texts (ch. 8, data type `=`). */
export function encodeOwnPosition(
  report: Pick<PositionToSend, 'latitude' | 'longitude' | 'symbol' | 'courseDeg' | 'speedKnots'> & {
    ambiguity?: Ambiguity;
    comment?: string;
  },
): Parsed<Uint8Array> {
  const comment = checkPositionComment(report.comment ?? '');
  return comment.ok ? ok(octetsOfText(`=${encodeUncompressedPosition(report)}`)) : comment;
}
