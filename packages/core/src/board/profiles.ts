import type { BoardProfile } from './profile';

/** Profiles that ship with the program; an operator adds others as data. */
export const BOARD_PROFILES: readonly BoardProfile[] = [
  {
    id: 'sound',
    name: 'Boards of Hollin Sound',
    prompt: 'board ready>',
    list: {
      unread: 'unread',
      everything: 'everything',
      row: 'no (?<number>\\d+) (?<type>private|bulletin) (?<octets>\\d+) octets from (?<from>\\S+) to (?<to>\\S+) on (?<at>\\S+ \\S+) key (?<key>\\S+): (?<subject>.*)',
      bulletinType: 'bulletin',
    },
    read: {
      command: 'open {number}',
      field: '(?<name>from|to|date|subject|key) (?<value>.*)',
      carried: 'carried (?<at>\\S+ \\S+) by (?<board>\\S+) as (?<number>\\d+)',
      textBegins: '--- text',
      textEnds: '--- end of {number}',
    },
    leave: {
      private: 'put private {to}',
      bulletin: 'put bulletin {to}',
      asksSubject: 'subject\\?',
      asksText: 'text, a single dash ends it',
      endOfText: '-',
      taken: 'kept as (?<number>\\d+) key (?<key>\\S+)',
      refused: 'not kept: (?<reason>.*)',
    },
    mine: {
      command: 'mine',
      row: 'no (?<number>\\d+) to \\S+ (?<state>read|forwarded) by (?<by>\\S+) on (?<at>\\S+ \\S+)',
    },
    goodbye: 'bye',
  },
];
