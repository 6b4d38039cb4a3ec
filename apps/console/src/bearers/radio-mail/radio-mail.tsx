import { CALLED_FIELDS, calledAddress, calledWords } from '../address-fields';
import { later } from '../later';
import type { ConsoleKind, OfBearer } from '../kind';
import { mail } from './composer';

const Sessions = later<OfBearer<'radio-mail'>>(async () => {
  const { SessionPlace } = await import('../in-sessions/session-place');
  return { default: ({ bearer }) => <SessionPlace bearer={bearer} mail /> };
}, 'the sessions');

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
  inside: { title: 'Open sessions', Place: Sessions },
  composer: mail,
};
