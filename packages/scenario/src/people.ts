import type { Person } from '@tombolo/contract';

/** People who are reached through the station. Numbers and domains are those reserved for examples. */
export const people: readonly Person[] = [
  {
    id: '5d1c8f0a-6f0e-4c36-9a52-5b1f0d3a7e01',
    name: 'Ferry Office',
    licensed: false,
    agreement: 'Office and net control may text the phone at any hour; mail is read in the morning.',
    addresses: [
      { sort: 'phone', address: '+00 555 0142' },
      { sort: 'mail', address: 'office@ferry.example' },
    ],
    broughtBy: [],
  },
  {
    id: '5d1c8f0a-6f0e-4c36-9a52-5b1f0d3a7e02',
    name: 'Oskar Pellmund',
    licensed: false,
    agreement: '',
    addresses: [{ sort: 'node', address: 'LSFARM' }],
    broughtBy: [],
  },
  {
    id: '5d1c8f0a-6f0e-4c36-9a52-5b1f0d3a7e03',
    name: 'Dr Renske Hallow',
    licensed: false,
    agreement: '',
    addresses: [
      { sort: 'mail', address: 'hallow@clinic.example' },
      { sort: 'node', address: 'VLCLIN' },
    ],
    broughtBy: [],
  },
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
