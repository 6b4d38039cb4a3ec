import type { KeptService, WantedService } from '@tombolo/contract';
import type { Api } from './harness';

const text = { id: 'text', title: 'Text', kind: 'text' as const };

/** Texts to phones, as a gateway words them. */
export const PHONE: WantedService = {
  address: 'TELTXT',
  name: 'Phone text',
  purpose: 'Texts to phones',
  commands: [
    {
      id: 'text',
      title: 'Text a phone',
      fields: [{ id: 'to', title: 'Phone number', kind: 'phone' }, text],
      template: '{to}: {text}',
      answerWithinS: 86_400,
    },
  ],
  answers: [
    { pattern: '^Text to (?<to>\\d+) taken', proves: 'taken' },
    { pattern: '^Not sent: (?<reason>.*)$', proves: 'refused' },
    { pattern: '^(?<to>\\d{3,20}): (?<text>.*)$', proves: 'answer' },
  ],
};

/** A desk that is asked, and uses where one was last. */
export const DESK: WantedService = {
  address: 'ASKDSK',
  name: 'Desk',
  purpose: 'Tells what it knows',
  commands: [
    {
      id: 'where',
      title: 'Where a station is',
      fields: [{ id: 'call', title: 'Call sign', kind: 'call' }],
      template: 'WHERE {call}',
      positionFirst: true,
    },
  ],
  answers: [
    { pattern: '^(?<call>[A-Z0-9-]+) is at (?<text>.*)$', proves: 'told', of: ['where'] },
    { pattern: '^(?<group>[A-Z0-9]+) says: ', proves: 'nothing' },
  ],
};

/** Puts services into the directory. */
export const keepServices = (api: Api, ...services: readonly WantedService[]): Promise<KeptService[]> =>
  api.post<KeptService[]>('/services', { format: 'tombolo services', version: 1, services });
