import { service, type WantedService } from '@tombolo/contract';
import { fieldsOf, PROVES, readTemplate, readWhole, type FieldKind, type Proves } from '@tombolo/core';
import { z } from 'zod';

/** What each sort of answer proves, in words. */
export const PROVES_WORDS: Readonly<Record<Proves, { readonly title: string; readonly hint: string }>> = {
  taken: { title: 'It took it', hint: 'To hand it on. Whether somebody read it is not told.' },
  refused: { title: 'It refused it', hint: 'What stands in the group “reason” is why.' },
  answer: { title: 'The far person answers', hint: 'What stands in the group “text” was said.' },
  told: { title: 'It tells what was asked', hint: 'The question is answered by the service itself.' },
  nothing: { title: 'Nothing', hint: 'Talk, or news: it belongs to no question.' },
};

export const KIND_WORDS: Readonly<Record<FieldKind, string>> = {
  phone: 'Phone number',
  mail: 'Mail address',
  group: 'Group',
  call: 'Call sign',
  place: 'Place or locator',
  reference: 'Reference',
  frequency: 'Frequency, MHz',
  mode: 'Mode',
  text: 'Free text',
};

const fieldForm = z.object({
  id: z.string(),
  title: z.string(),
  kind: z.string(),
  optional: z.boolean(),
  offers: z.string(),
});
const commandForm = z.object({
  id: z.string(),
  title: z.string(),
  template: z.string(),
  fields: z.array(fieldForm),
  asksAcknowledgement: z.boolean(),
  positionFirst: z.boolean(),
  withinMin: z.string(),
  leftBy: z.string(),
  cautions: z.string(),
});
const answerForm = z.object({ pattern: z.string(), proves: z.enum(PROVES), of: z.string() });
const form = z.object({
  address: z.string(),
  name: z.string(),
  purpose: z.string(),
  reached: z.string(),
  commands: z.array(commandForm),
  answers: z.array(answerForm),
});
export type ServiceForm = z.input<typeof form>;

const parts = (text: string, between: RegExp) =>
  text
    .split(between)
    .map((part) => part.trim())
    .filter(Boolean);

/** The form holds texts; the contract's schema judges them, and each complaint stands at its field. */
export const serviceForm = form.transform((written, context) => {
  const read = service.safeParse({
    ...written,
    commands: written.commands.map(({ withinMin, leftBy, cautions, fields, ...command }) => ({
      ...command,
      fields: fields.map((field) => ({ ...field, offers: parts(field.offers, /,/) })),
      answerWithinS: readWhole(withinMin) * 60,
      leftBy: leftBy.trim() || null,
      cautions: parts(cautions, /\n/),
    })),
    answers: written.answers.map((answer) => ({ ...answer, of: parts(answer.of, /[,\s]+/) })),
  });
  if (read.success) return read.data;
  for (const { path, message } of read.error.issues)
    context.addIssue({
      code: 'custom',
      path: path
        .map((part) => (part === 'answerWithinS' ? 'withinMin' : (part as string | number)))
        .slice(0, formDepth(path)),
      message,
    });
  return z.NEVER;
});

/** Lists are one field of the form: a complaint of one of their entries is the list's. */
const formDepth = (path: readonly PropertyKey[]): number => {
  const list = path.findIndex((part) => part === 'offers' || part === 'cautions' || part === 'of');
  return list < 0 ? path.length : list + 1;
};

export const writtenOf = (of: WantedService | null): ServiceForm => ({
  address: of?.address ?? '',
  name: of?.name ?? '',
  purpose: of?.purpose ?? '',
  reached: of?.reached ?? '',
  commands: of?.commands.map((command) => ({
    id: command.id,
    title: command.title,
    template: command.template,
    fields: command.fields.map(({ id, title, kind, optional = false, offers = [] }) => ({
      id,
      title,
      kind,
      optional,
      offers: offers.join(', '),
    })),
    asksAcknowledgement: command.asksAcknowledgement ?? true,
    positionFirst: command.positionFirst ?? false,
    withinMin: String(Math.ceil((command.answerWithinS ?? 120) / 60)),
    leftBy: command.leftBy ?? '',
    cautions: (command.cautions ?? []).join('\n'),
  })) ?? [BLANK_COMMAND],
  answers: of?.answers?.map(({ pattern, proves, of: ids = [] }) => ({ pattern, proves, of: ids.join(', ') })) ?? [],
});

export const BLANK_COMMAND: ServiceForm['commands'][number] = {
  id: 'send',
  title: 'Send',
  template: '{text}',
  fields: [{ id: 'text', title: 'Text', kind: 'text', optional: false, offers: '' }],
  asksAcknowledgement: true,
  positionFirst: false,
  withinMin: '2',
  leftBy: '',
  cautions: '',
};

/** Fields of a command as its template names them: those that were there stay as they are. */
export function fieldsFor(
  template: string,
  before: ServiceForm['commands'][number]['fields'],
): ServiceForm['commands'][number]['fields'] {
  const read = readTemplate(template);
  if (!read.ok) return before;
  const optional = new Set(read.value.flatMap((piece) => (piece.is === 'optional' ? fieldsOf(piece.pieces) : [])));
  return [...new Set(fieldsOf(read.value))].map((id) => ({
    id,
    title: id === 'text' ? 'Text' : id,
    kind: id === 'text' ? 'text' : 'group',
    offers: '',
    ...before.find((field) => field.id === id),
    optional: optional.has(id),
  }));
}
