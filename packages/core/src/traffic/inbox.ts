/**
 * Who may fill the inbox how far. Strangers have a room of their own, and each of them a corner of it; whoever is known always gets in, up to
 * what somebody under a borrowed call could send; urgency that a stranger claims has a small room beside, so that neither kind crowds out the
 * other.
 */
export const STANDINGS = ['known', 'stranger', 'stranger, urgent'] as const;
export type Standing = (typeof STANDINGS)[number];

export interface InboxRoom {
  /** Unfiled texts of strangers in all. */
  readonly strangers: number;
  readonly perStranger: number;
  /** Of strangers who claim urgency, in all. */
  readonly urgent: number;
  readonly perKnown: number;
}

export const INBOX_ROOM: InboxRoom = { strangers: 500, perStranger: 20, urgent: 20, perKnown: 200 };

/** What lies unfiled now. */
export interface InboxCounts {
  readonly ofSender: number;
  readonly ofStrangers: number;
  readonly urgentOfStrangers: number;
}

/** Precedence words that formal traffic begins with; a claim, whoever makes it. */
export const claimsUrgency = (text: string): boolean => /^\s*(EMERGENCY|PRIORITY|WELFARE)\b/i.test(text);

export const standingOf = (known: boolean, text: string): Standing =>
  known ? 'known' : claimsUrgency(text) ? 'stranger, urgent' : 'stranger';

/** Whether there is room for one more. */
export function inboxHasRoom(standing: Standing, counts: InboxCounts, room: InboxRoom = INBOX_ROOM): boolean {
  switch (standing) {
    case 'known':
      return counts.ofSender < room.perKnown;
    case 'stranger, urgent':
      return counts.ofSender < room.perStranger && counts.urgentOfStrangers < room.urgent;
    case 'stranger':
      return counts.ofSender < room.perStranger && counts.ofStrangers < room.strangers;
  }
}
