import type { Person } from '@tombolo/contract';

/** People who are reached through the station. Numbers and domains are those reserved for examples. */
export const people: readonly Person[] = [
  { name: 'Ferry Office', phone: '+00 555 0142', mail: 'office@ferry.example', meshNode: null, licensed: false },
  { name: 'Oskar Pellmund', phone: null, mail: null, meshNode: 'LSFARM', licensed: false },
  { name: 'Dr Renske Hallow', phone: null, mail: 'hallow@clinic.example', meshNode: 'VLCLIN', licensed: false },
];

/** Own mailbox behind the radio mail gateway. */
export const mailbox = { address: 'qt2ar@sound.example', user: 'qt2ar', password: 'skerra' };

/** What the other end of a mail or a phone answers, by its address. */
export const answers: Readonly<Record<string, { readonly afterS: number; readonly text: string }>> = {
  '005550142': { afterS: 40, text: 'Not before tomorrow 0700Z. Little Skerra comes first' },
  'office@ferry.example': {
    afterS: 60,
    text: 'Thank you. The ferry takes pallets again from tomorrow 0700Z.\nPlease have the list of people at the pier.',
  },
};

/** What lies in the mailbox at the first start. */
export const firstMail = {
  from: 'stores@hospital.example',
  subject: 'Cool box for Veil',
  text: 'Two cool boxes are packed for the clinic on Veil.\nThe lifeboat can fetch them at the harbour steps.',
};
