import { MAX_MESSAGE_TEXT } from '../aprs/message';
import { octetsOfText } from '../octets';
import { fail, ok, type Parsed } from '../result';
import { readField } from './fields';
import type { ServiceCommand } from './service';

/** A template in pieces: words, fields, and parts that are left out while a field in them is empty. */
export type TemplatePiece =
  | { readonly is: 'words'; readonly words: string }
  | { readonly is: 'field'; readonly id: string }
  | { readonly is: 'optional'; readonly pieces: readonly TemplatePiece[] };

const FIELD = /\{([a-z][a-zA-Z0-9]{0,19})\}/y;

/** Takes a template apart; brackets do not stand within brackets. */
export function readTemplate(template: string): Parsed<readonly TemplatePiece[]> {
  const whole: TemplatePiece[] = [];
  let open: TemplatePiece[] | null = null;
  const put = (piece: TemplatePiece) => {
    const last = (open ?? whole).at(-1);
    if (piece.is === 'words' && last?.is === 'words')
      (open ?? whole)[(open ?? whole).length - 1] = { is: 'words', words: last.words + piece.words };
    else (open ?? whole).push(piece);
  };
  let at = 0;
  while (at < template.length) {
    const sign = template[at]!;
    FIELD.lastIndex = at;
    const field = sign === '{' ? FIELD.exec(template) : null;
    if (field) {
      put({ is: 'field', id: field[1]! });
      at += field[0].length;
      continue;
    }
    if (sign === '{' || sign === '}') return fail(at, 'a field is written {name}, with a small letter first');
    if (sign === '[') {
      if (open) return fail(at, 'brackets do not stand within brackets');
      open = [];
    } else if (sign === ']') {
      if (!open) return fail(at, 'a bracket that was not opened');
      const pieces: readonly TemplatePiece[] = open;
      if (!pieces.some(({ is }) => is === 'field')) return fail(at, 'a part in brackets needs a field');
      open = null;
      whole.push({ is: 'optional', pieces });
    } else put({ is: 'words', words: sign });
    at++;
  }
  return open ? fail(template.length, 'a bracket is not closed') : ok(whole);
}

/** Fields of a template, in their order. */
export const fieldsOf = (pieces: readonly TemplatePiece[]): string[] =>
  pieces.flatMap((piece) =>
    piece.is === 'field' ? [piece.id] : piece.is === 'optional' ? fieldsOf(piece.pieces) : [],
  );

/** What is there under a name, and not what every object has. */
const at = (values: Readonly<Record<string, string>>, id: string): string =>
  Object.hasOwn(values, id) ? values[id]! : '';

function put(pieces: readonly TemplatePiece[], values: Readonly<Record<string, string>>): string {
  return pieces
    .map((piece) => {
      if (piece.is === 'words') return piece.words;
      if (piece.is === 'field') return at(values, piece.id);
      return fieldsOf(piece.pieces).every((id) => at(values, id) !== '') ? put(piece.pieces, values) : '';
    })
    .join('');
}

/** A command that can be sent, or what is wrong by field. */
export type Filled =
  | { readonly ok: true; readonly text: string; readonly values: Readonly<Record<string, string>> }
  | { readonly ok: false; readonly faults: Readonly<Record<string, string>> };

/** Words of a command out of what was typed into its fields: checked field by field, and as a whole against what a text holds. */
export function fillCommand(command: ServiceCommand, typed: Readonly<Record<string, string>>): Filled {
  const template = readTemplate(command.template);
  const faults: Record<string, string> = {};
  const values: Record<string, string> = {};
  for (const { id, kind, optional } of command.fields) {
    const text = at(typed, id);
    if (optional && text.trim() === '') continue;
    const read = readField(kind, text);
    if (read.ok) values[id] = read.value;
    else faults[id] = read.error.reason;
  }
  const first = command.fields[0]?.id ?? '';
  if (!template.ok)
    return { ok: false, faults: { ...faults, [first]: `the template cannot be used: ${template.error.reason}` } };
  if (Object.keys(faults).length > 0) return { ok: false, faults };
  const text = put(template.value, values);
  const over = octetsOfText(text).length - MAX_MESSAGE_TEXT;
  if (over > 0) {
    const longest = command.fields.findLast(({ kind }) => kind === 'text')?.id ?? first;
    return {
      ok: false,
      faults: { [longest]: `${over} of ${MAX_MESSAGE_TEXT} octets too many with all that goes before it: shorten it` },
    };
  }
  return { ok: true, text, values };
}

/** Octets that a field may have with the others as they are; 0 where nothing is left. */
export function roomFor(command: ServiceCommand, typed: Readonly<Record<string, string>>, field: string): number {
  const template = readTemplate(command.template);
  if (!template.ok) return 0;
  const values = Object.fromEntries(
    command.fields.map(({ id, kind }) => {
      const read = readField(kind, at(typed, id));
      return [id, read.ok ? read.value : at(typed, id).trim()];
    }),
  );
  return Math.max(0, MAX_MESSAGE_TEXT - octetsOfText(put(template.value, { ...values, [field]: 'x' })).length + 1);
}

/** The command as far as it is written, with the titles of what is missing: for the eye alone. */
export function previewOf(command: ServiceCommand, typed: Readonly<Record<string, string>>): string {
  const template = readTemplate(command.template);
  if (!template.ok) return command.template;
  const values = Object.fromEntries(
    command.fields.flatMap(({ id, kind, title, optional }) => {
      const text = at(typed, id).trim();
      if (text === '' && optional) return [];
      const read = readField(kind, text);
      return [[id, read.ok ? read.value : text || `‹${title}›`]];
    }),
  );
  return put(template.value, values);
}
