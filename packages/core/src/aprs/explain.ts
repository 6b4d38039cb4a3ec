import { textOfOctets } from '../octets';
import { decodeInformation, type Information } from './information';
import { symbolMeaning } from './symbol';

/** A field of an information field in plain words, with the octets [from, to) it came from. */
export interface ExplainedField {
  readonly name: string;
  readonly words: string;
  readonly from: number;
  readonly to: number;
}

const degrees = (value: number, positive: string, negative: string): string => {
  const whole = Math.floor(Math.abs(value));
  const minutes = (Math.abs(value) - whole) * 60;
  return `${whole}° ${minutes.toFixed(2)}′ ${value < 0 ? negative : positive}`;
};

/** One line that says what a packet is about. */
export function summaryOf(data: Information): string {
  switch (data.kind) {
    case 'message':
      return `To ${data.addressee}: ${data.text}`;
    case 'ack':
      return `Acknowledges number ${data.number} to ${data.addressee}`;
    case 'rej':
      return `Refuses number ${data.number} of ${data.addressee}`;
    case 'bulletin':
      return `${data.announcement ? 'Announcement' : 'Bulletin'} ${data.id}${data.group ? ` for ${data.group}` : ''}: ${data.text}`;
    case 'position':
      return `${degrees(data.latitude, 'N', 'S')} ${degrees(data.longitude, 'E', 'W')}${data.comment.trim() ? ` – ${data.comment.trim()}` : ''}`;
    case 'status':
      return data.text;
    case 'third party':
      return `Passed on for ${data.inner.source}`;
    case 'named':
      return data.text;
  }
}

/** Field by field, in the order of the octets; a field that cannot be read is named with the reason. */
export function explainInformation(info: Uint8Array): ExplainedField[] {
  const data = decodeInformation(info);
  if (!data.ok) return [{ name: 'Not understood', words: data.error.reason, from: data.error.at, to: info.length }];
  const fields: ExplainedField[] = [];
  const add = (name: string, words: string, from: number, to: number) =>
    fields.push({ name, words, from, to: Math.min(to, info.length) });
  const value = data.value;
  add('Type', `${kindInWords(value)}`, 0, 1);
  switch (value.kind) {
    case 'message':
    case 'ack':
    case 'rej':
    case 'bulletin': {
      add('Addressee', `${value.addressee}, padded to nine characters`, 1, 10);
      const body = textOfOctets(info, 11);
      if (value.kind === 'message') {
        const numberAt = value.number === null ? info.length : info.length - octets(body.slice(body.lastIndexOf('{')));
        add('Text', value.text, 11, numberAt);
        if (value.number === null) add('No number', 'no acknowledgement is asked for', info.length, info.length);
        else add('Number', `${value.number}: an acknowledgement is asked for`, numberAt, info.length);
        if (value.replyAck)
          add('Reply acknowledges', `number ${value.replyAck} of ${value.addressee}`, numberAt, info.length);
      } else if (value.kind === 'bulletin') add('Text', value.text, 11, info.length);
      else
        add('Answer', `${value.kind === 'ack' ? 'acknowledges' : 'refuses'} number ${value.number}`, 11, info.length);
      break;
    }
    case 'position': {
      const at = value.time === null ? 1 : 8;
      if (value.time !== null) add('Time', timeInWords(value.time), 1, 8);
      const size = value.compressed ? 13 : 19;
      const latitude = degrees(value.latitude, 'N', 'S');
      const longitude = degrees(value.longitude, 'E', 'W');
      if (value.compressed) {
        add('Latitude', `${latitude}, in base 91`, at + 1, at + 5);
        add('Longitude', `${longitude}, in base 91`, at + 5, at + 9);
        add('Symbol', symbolMeaning(value.symbol), at + 9, at + 10);
      } else {
        const blank = value.ambiguity > 0 ? `; ${value.ambiguity} digits left blank on purpose` : '';
        add('Latitude', latitude + blank, at, at + 8);
        add('Longitude', longitude, at + 9, at + 18);
        add('Symbol', symbolMeaning(value.symbol), at + 18, at + 19);
      }
      if (value.courseDeg !== null)
        add(
          'Course and speed',
          `${Math.round(value.courseDeg)}° at ${value.speedKnots?.toFixed(0)} knots`,
          ...motionAt(value.compressed, at),
        );
      if (value.rangeMi !== null) add('Range', `${value.rangeMi.toFixed(1)} miles`, ...motionAt(value.compressed, at));
      if (value.altitudeFt !== null) add('Altitude', `${Math.round(value.altitudeFt)} feet`, at + size, info.length);
      if (value.comment.trim() !== '') add('Comment', value.comment.trim(), at + size, info.length);
      break;
    }
    case 'status':
      add('Text', value.text, 1, info.length);
      break;
    case 'third party':
      add(
        'Inside',
        `a packet from ${value.inner.source} to ${value.inner.destination}`,
        1,
        info.length - value.inner.info.length,
      );
      for (const field of explainInformation(value.inner.info)) {
        const shift = info.length - value.inner.info.length;
        add(`Inside: ${field.name}`, field.words, field.from + shift, field.to + shift);
      }
      break;
    case 'named':
      add('Content', `${value.text} (kept as received)`, 1, info.length);
  }
  return fields;
}

const octets = (text: string): number => new TextEncoder().encode(text).length;

const motionAt = (compressed: boolean, at: number): [number, number] =>
  compressed ? [at + 10, at + 13] : [at + 19, at + 26];

function timeInWords(time: string): string {
  const [a, b, c] = [time.slice(0, 2), time.slice(2, 4), time.slice(4, 6)];
  switch (time[6]) {
    case 'z':
      return `day ${a}, ${b}:${c} UTC`;
    case 'h':
      return `${a}:${b}:${c} UTC`;
    default:
      return `day ${a}, ${b}:${c} local time of the sender`;
  }
}

function kindInWords(value: Information): string {
  switch (value.kind) {
    case 'ack':
      return 'acknowledgement';
    case 'rej':
      return 'refusal';
    case 'bulletin':
      return value.announcement ? 'announcement' : 'bulletin';
    case 'position':
      return `position${value.time === null ? '' : ' with time'}, ${value.messaging ? 'takes messages' : 'takes no messages'}`;
    case 'third party':
      return 'packet passed on for another station';
    case 'named':
      return value.type;
    default:
      return value.kind;
  }
}
