import { BOARD_PROFILES } from '@tombolo/core';
import { CALLED_FIELDS, calledAddress, calledWords } from '../address-fields';
import { later } from '../later';
import type { ConsoleKind, OfBearer } from '../kind';
import { boardMessage } from './composer';

const Sessions = later<OfBearer<'board'>>(async () => {
  const { SessionPlace } = await import('../in-sessions/session-place');
  return { default: ({ bearer }) => <SessionPlace bearer={bearer} mail={false} /> };
}, 'the sessions');

export const board: ConsoleKind<'board'> = {
  id: 'board',
  title: 'A bulletin board',
  hint: 'Called over the modem when you start a session.',
  words: 'Bulletin board ',
  where: calledWords,
  form: {
    fields: CALLED_FIELDS,
    overModem: true,
    config: (entry) => ({ kind: 'board', ...calledAddress(entry), profile: BOARD_PROFILES[0]! }),
  },
  inside: { title: 'Open sessions', Place: Sessions },
  composer: boardMessage,
};
