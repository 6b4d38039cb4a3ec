import { service, type KeptService } from '@tombolo/contract';

const kept = (of: unknown): KeptService => ({ ...service.parse(of), revision: 3 });
const text = { id: 'text', title: 'Text', kind: 'text' };

/** Texts to phones. */
export const PHONE = kept({
  address: 'TELTXT',
  name: 'Phone text',
  purpose: 'A short text to a phone.',
  reached: 'behind QT1GW-10',
  commands: [
    {
      id: 'text',
      title: 'Text a phone',
      fields: [{ id: 'to', title: 'Phone number', kind: 'phone' }, text],
      template: '{to}: {text}',
      answerWithinS: 86_400,
      cautions: ['Write first.'],
    },
  ],
  answers: [{ pattern: '^Text to (?<to>\\d+) taken', proves: 'taken' }],
});

/** A desk, with a command that uses where we are and one with much to enter. */
export const DESK = kept({
  address: 'ASKDSK',
  name: 'Desk',
  purpose: 'Tells what it knows.',
  commands: [
    {
      id: 'spot',
      title: 'Spot an activity',
      fields: [
        { id: 'place', title: 'Reference', kind: 'reference' },
        { id: 'mhz', title: 'Frequency', kind: 'frequency' },
        { id: 'mode', title: 'Mode', kind: 'mode', offers: ['SSB', 'CW'] },
        { ...text, optional: true },
      ],
      template: 'SPOT AT {place} ON {mhz} BY {mode}[: {text}]',
    },
    {
      id: 'mail',
      title: 'Mail',
      fields: [{ id: 'to', title: 'Mail address', kind: 'mail' }, text],
      template: '{to}: {text}',
      positionFirst: true,
    },
  ],
});
