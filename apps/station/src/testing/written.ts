import { randomUUID } from 'node:crypto';
import type { NewItem } from '@tombolo/contract';

type Part<K extends keyof NewItem, Is extends object> = Extract<NewItem[K], Is>;
type Common = Partial<Pick<NewItem, 'id' | 'precedence' | 'answers' | 'deadline'>>;

const address = (to: string): NewItem['addressee'] => ({ is: 'address', address: to });

/** A text by packet radio. */
export const textTo = (
  to: string,
  body: string,
  {
    bearerId = 'radio',
    path,
    askAcknowledgement,
    times,
    ...more
  }: Common & Partial<Part<'way', { by: 'packets' }>> = {},
): NewItem => ({
  id: randomUUID(),
  addressee: address(to),
  content: { is: 'text', body },
  way: {
    by: 'packets',
    bearerId,
    path: path ?? ['WIDE1-1', 'WIDE2-1'],
    askAcknowledgement: askAcknowledgement ?? true,
    ...(times !== undefined && { times }),
  },
  ...more,
});

/** A text into the mesh, to a node or to everybody on a channel. */
export const meshText = (
  to: string | null,
  body: string,
  { bearerId = 'mesh', channel = 'Sound', ...more }: Common & { bearerId?: string; channel?: string } = {},
): NewItem => ({
  id: randomUUID(),
  addressee: to === null ? { is: 'everybody' } : address(to),
  content: { is: 'text', body },
  way: { by: 'texts', bearerId, channel },
  ...more,
});

/** A message to leave at a board. */
export const messageTo = (
  to: string,
  subject: string,
  body: string,
  { bearerId = 'board', bulletin = false, ...more }: Common & { bearerId?: string; bulletin?: boolean } = {},
): NewItem => ({
  id: randomUUID(),
  addressee: address(to),
  content: { is: 'message', bulletin, subject, body },
  way: { by: 'messages', bearerId },
  ...more,
});

/** A mail to submit. */
export const mailTo = (
  to: string,
  content: Omit<Part<'content', { is: 'mail' }>, 'is'>,
  { bearerId = 'mail', ...more }: Common & { bearerId?: string } = {},
): NewItem => ({
  id: randomUUID(),
  addressee: address(to),
  content: { is: 'mail', ...content },
  way: { by: 'mail', bearerId },
  ...more,
});
