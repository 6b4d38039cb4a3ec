import { definitionInWords } from './addressed';
import { decodeInformation, type Information } from './information';
import type { FieldPart } from './note';
import { routeOfDestination } from './destination';
import { degreesInWords, type PositionReport } from './position/report';
import { weatherInWords } from './weather';

/** A field in plain words, with the octets [from, to) it came from and where these stand. */
export interface ExplainedField {
  readonly name: string;
  readonly words: string;
  readonly from: number;
  readonly to: number;
  readonly part: FieldPart;
}

const place = (data: { latitude: number; longitude: number }): string =>
  `${degreesInWords(data.latitude, 'N', 'S')} ${degreesInWords(data.longitude, 'E', 'W')}`;

const motion = ({ courseDeg, speedKnots }: Pick<PositionReport, 'courseDeg' | 'speedKnots'>): string | null =>
  speedKnots === null
    ? null
    : `${courseDeg === null ? '' : `${Math.round(courseDeg)}° at `}${Math.round(speedKnots)} kn`;

const joined = (...parts: (string | null)[]): string =>
  parts.filter((part) => part !== null && part !== '').join(' – ');

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
      return joined(place(data), data.weather && weatherInWords(data.weather), motion(data), data.comment);
    case 'Mic-E':
      return joined(place(data), motion(data), data.message, data.comment);
    case 'object':
    case 'item':
      return joined(`${data.name}${data.live ? '' : ' taken off the map'}`, place(data), data.comment);
    case 'status':
      return joined(data.locator, data.text);
    case 'weather':
      return joined(weatherInWords(data.weather), data.comment);
    case 'telemetry':
      return joined(
        `number ${data.sequence}: ${data.analog.map((value) => value ?? '–').join(', ')}`,
        data.bits,
        data.comment,
      );
    case 'telemetry definition':
      return `${data.station}: ${definitionInWords(data.definition)}`;
    case 'query':
      return `Asks ${data.what}`;
    case 'capabilities':
      return data.tokens.map(({ name, value }) => (value === null ? name : `${name} ${value}`)).join(', ');
    case 'NMEA':
      return joined(
        data.type,
        data.latitude === null || data.longitude === null
          ? null
          : place({ latitude: data.latitude, longitude: data.longitude }),
        data.valid === false ? 'no fix' : null,
        data.waypoint,
      );
    case 'direction finder':
      return `Bearing ${data.bearingDeg}°${data.quality === null ? '' : `, quality ${data.quality} of 9`}`;
    case 'locator':
      return joined(data.locator, data.comment);
    case 'user defined':
      return `${data.user}${data.type} ${data.data}`;
    case 'third party':
      return `Passed on for ${data.inner.source}`;
    case 'test data':
      return data.text;
  }
}

/** Field by field, in the order in which they were read; a part that cannot be read is named with the reason. */
export function explainInformation(info: Uint8Array, destination: string): ExplainedField[] {
  const fields: ExplainedField[] = [];
  const data = decodeInformation(info, destination, (name, words, from, to, part = 'information') => {
    const end = part === 'destination' ? destination.length : info.length;
    fields.push({ name, words, from: Math.min(from, end), to: Math.min(to, end), part });
  });
  const route = data.ok && data.value.kind !== 'Mic-E' ? routeOfDestination(destination) : null;
  if (route !== null)
    fields.push({
      name: 'Way asked for',
      words: `${route}, by the number behind the destination`,
      from: destination.indexOf('-'),
      to: destination.length,
      part: 'destination',
    });
  const faults = data.ok ? ('faults' in data.value ? data.value.faults : []) : [data.error];
  for (const { at, reason } of faults)
    fields.push({
      name: 'Not understood',
      words: reason,
      from: Math.min(at, info.length),
      to: info.length,
      part: 'information',
    });
  return fields;
}
