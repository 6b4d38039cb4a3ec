import { BOARD_PROFILES } from '@tombolo/core';
import { CALLED_FIELDS, calledAddress, calledWords } from '../address-fields';
import { later } from '../later';
import type { BearerField, ConsoleKind, Entry, OfBearer } from '../kind';
import { boardMessage } from './composer';

const Sessions = later<OfBearer<'board'>>(async () => {
  const { SessionPlace } = await import('../in-sessions/session-place');
  return { default: ({ bearer }) => <SessionPlace bearer={bearer} mail={false} /> };
}, 'the sessions');

/** What the board itself knows, and nobody else: what a message waits for there. */
const FORWARDING_FIELDS: readonly BearerField[] = [
  {
    name: 'forwardsEveryMin',
    label: 'Forwards to other boards every, minutes',
    hint: 'Ways over it are reckoned by this; empty while it is not known',
  },
  {
    name: 'forwardsAt',
    label: 'One of the times at which it does, UTC',
    hint: 'Such as 06:30; empty while it is not known',
  },
];
const forwarding = ({ texts }: Entry) => ({
  forwardsEveryMin: texts.forwardsEveryMin?.trim() ? Number(texts.forwardsEveryMin) : null,
  forwardsAt: texts.forwardsAt?.trim() || null,
});

export const board: ConsoleKind<'board'> = {
  id: 'board',
  title: 'A bulletin board',
  hint: 'Called over the modem when you start a session.',
  words: 'Bulletin board ',
  where: calledWords,
  form: {
    fields: [...CALLED_FIELDS, ...FORWARDING_FIELDS],
    overModem: true,
    config: (entry) => ({ kind: 'board', ...calledAddress(entry), ...forwarding(entry), profile: BOARD_PROFILES[0]! }),
  },
  inside: { title: 'Open sessions', Place: Sessions },
  composer: boardMessage,
};
