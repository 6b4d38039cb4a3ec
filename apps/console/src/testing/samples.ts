import {
  defaultSettings,
  type BearerView,
  type ItemDetail,
  type OfferView,
  type SessionView,
  type Settings,
} from '@tombolo/contract';
import { BOARD_PROFILES } from '@tombolo/core';

/** Answers of a station as the tests of the console use them; each differs where it is told to. */
export const AT = '2026-11-25T08:00:00.000Z';

export const openSettings: Settings = {
  ...defaultSettings,
  call: 'QT2AR',
  licenceConfirmed: true,
  antennaConfirmed: true,
};

export const boardLink = (more: Partial<BearerView> = {}): BearerView => ({
  id: 'board',
  name: 'Board Hollinport',
  config: { kind: 'board', over: 'radio', call: 'QT1BB-4', path: ['QT0BR-1'], profile: BOARD_PROFILES[0]! },
  enabled: true,
  canTransmit: false,
  state: { link: 'off', since: AT, reason: 'It is called when you start a session.', nextTryAt: null },
  queued: 1,
  load: null,
  lastHeardAt: null,
  heardLastHour: 0,
  ...more,
});

export const offer = (more: Partial<OfferView> = {}): OfferView => ({
  bearerId: 'board',
  key: 'k11',
  number: '11',
  kind: 'bulletin',
  octets: 115,
  from: 'QT1NC',
  to: 'NEWS@SOUND',
  at: '2026-11-25 05:57',
  subject: 'Tides until Thursday',
  seenAt: AT,
  gone: false,
  itemId: null,
  expectedS: 13,
  ...more,
});

export const session = (more: Partial<SessionView> = {}): SessionView => ({
  id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3d',
  bearerId: 'board',
  kind: 'exchange',
  startedAt: AT,
  endedAt: AT,
  stage: 'done',
  doneOctets: 0,
  totalOctets: 0,
  problem: null,
  transcript: '> unread\nboard ready>\n',
  ...more,
});

export const arrivedItem = (more: Partial<ItemDetail> = {}): ItemDetail => ({
  id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3e',
  direction: 'in',
  kind: 'mail',
  precedence: 'routine',
  sender: 'office@ferry.example',
  addressee: 'qt2ar@sound.example',
  subject: 'Re: List',
  body: 'Thank you.',
  number: null,
  acknowledgementAsked: false,
  createdAt: AT,
  filedAt: null,
  heap: 'needs you',
  status: {
    rung: 'delivered',
    outcome: null,
    proof: null,
    words: 'arrived',
    wouldProve: null,
    waitUntil: null,
  },
  causeway: null,
  cc: ['harbour@ferry.example'],
  attachments: [{ id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3f', name: 'list.csv', type: 'text/csv', octets: 13 }],
  custody: [{ id: '1', what: 'received', other: 'QT1RM-12', at: AT, by: 'QT2AR-7', bearer: 'mail', note: 'fetched' }],
  trace: [],
  legs: [],
  evidence: [
    {
      id: '1',
      kind: 'delivered',
      at: AT,
      legId: null,
      attempt: null,
      bearer: 'mail',
      by: 'QT1RM-12',
      via: [],
      raw: null,
      note: 'fetched from QT1RM-12',
      expectBy: null,
      packetId: null,
    },
  ],
  packetId: null,
  ...more,
});
