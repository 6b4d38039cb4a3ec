import { CALLED_FIELDS, calledAddress, calledWords } from '../address-fields';
import { SessionPlace } from '../in-sessions/session-place';
import type { ConsoleKind } from '../kind';
import { mail } from './composer';

export const radioMail: ConsoleKind<'radio-mail'> = {
  id: 'radio-mail',
  title: 'A gateway for radio mail',
  hint: 'Called over the modem when you start a session.',
  words: 'Mail gateway ',
  where: calledWords,
  form: {
    fields: [
      ...CALLED_FIELDS,
      { name: 'address', label: 'Own mail address' },
      { name: 'user', label: 'Mailbox user' },
      {
        name: 'password',
        label: 'Mailbox password',
        hint: 'It crosses the air in the clear: use it for nothing else',
      },
    ],
    overModem: true,
    config: (entry) => ({
      kind: 'radio-mail',
      ...calledAddress(entry),
      address: entry.texts.address ?? '',
      user: entry.texts.user ?? '',
      password: entry.texts.password ?? '',
    }),
  },
  inside: { title: 'Open sessions', Place: ({ bearer }) => <SessionPlace bearer={bearer} mail /> },
  composer: mail,
};
