import { fail, ok, type Parsed } from '../result';
import { decodeMessage, type MessageData } from './message';
import type { Note } from './note';
import { directedQuery, directedQueryInWords } from './query';
import { decodeTelemetryDefinition, type TelemetryDefinition } from './telemetry';

/** What a field that begins with an addressee can hold (ch. 13 and 14). */
export type AddressedData =
  | MessageData
  | { readonly kind: 'telemetry definition'; readonly station: string; readonly definition: TelemetryDefinition };

/** A message, acknowledgement, bulletin, or the definition of telemetry. */
export function decodeAddressed(info: Uint8Array, note?: Note): Parsed<AddressedData> {
  const message = decodeMessage(info);
  if (!message.ok) {
    note?.('Type', 'message', 0, 1);
    return message;
  }
  const data = message.value;
  const definition = data.kind === 'message' ? decodeTelemetryDefinition(data.text) : null;
  if (note) explainAddressed(info, data, definition, note);
  if (definition && data.kind === 'message')
    return definition.ok
      ? ok({ kind: 'telemetry definition', station: data.addressee, definition: definition.value })
      : fail(11 + definition.error.at, definition.error.reason);
  return message;
}

const TYPES = { message: 'message', ack: 'acknowledgement', rej: 'refusal', bulletin: 'bulletin' } as const;

function explainAddressed(
  info: Uint8Array,
  data: MessageData,
  definition: Parsed<TelemetryDefinition> | null,
  note: Note,
): void {
  const announcement = data.kind === 'bulletin' && data.announcement;
  note('Type', definition ? 'definition of telemetry' : announcement ? 'announcement' : TYPES[data.kind], 0, 1);
  note('Addressee', `${data.addressee}, padded to nine characters`, 1, 10);
  if (data.kind === 'bulletin') return note('Text', data.text, 11, info.length);
  if (data.kind !== 'message')
    return note('Answer', `${data.kind === 'ack' ? 'acknowledges' : 'refuses'} number ${data.number}`, 11, info.length);
  if (definition) {
    if (definition.ok) note('Defines', definitionInWords(definition.value), 11, info.length);
    return;
  }
  // The number begins at the last brace; octets are counted from the end, since the text may be UTF-8.
  const numberAt = data.number === null ? info.length : info.lastIndexOf(0x7b);
  note('Text', data.text, 11, numberAt);
  const query = directedQuery(data.text);
  if (query) note('Query', directedQueryInWords(query), 11, numberAt);
  if (data.number === null) note('No number', 'no acknowledgement is asked for', info.length, info.length);
  else note('Number', `${data.number}: an acknowledgement is asked for`, numberAt, info.length);
  if (data.replyAck) note('Reply acknowledges', `number ${data.replyAck} of ${data.addressee}`, numberAt, info.length);
}

/** What a station says of its channels, in words. */
export function definitionInWords(definition: TelemetryDefinition): string {
  switch (definition.what) {
    case 'names':
    case 'units':
      return `${definition.what}: ${definition.labels.join(', ')}`;
    case 'equations':
      return definition.coefficients
        .map(([a, b, c], i) => `channel ${i + 1} = ${a === 0 ? '' : `${a}·v² + `}${b}·v + ${c}`)
        .join('; ');
    case 'senses':
      return `active states ${definition.senses}${definition.project ? ` of “${definition.project}”` : ''}`;
  }
}
