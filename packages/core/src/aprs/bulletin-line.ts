/** Protocol Reference 1.0.1, ch. 14: what stands where a message has its addressee. */
export interface BulletinLine {
  readonly sort: 'bulletin' | 'announcement' | 'warning';
  /** `0`–`9`, `A`–`Z`; the word of a weather warning. */
  readonly line: string;
  /** For whom of those who read bulletins; null for all. */
  readonly group: string | null;
}

/** What an addressee says of a bulletin; null for one that is none. */
export function readBulletinLine(addressee: string): BulletinLine | null {
  if (!/^(?:BLN|NWS)/.test(addressee)) return null;
  const bulletin = /^BLN([0-9A-Z])([A-Z0-9 ]{0,5})$/.exec(addressee);
  if (bulletin)
    return {
      sort: isAnnouncement(bulletin[1]!) ? 'announcement' : 'bulletin',
      line: bulletin[1]!,
      group: bulletin[2]!.trim() || null,
    };
  // Weather services address their warnings to NWS and a word.
  const warning = /^NWS[-_ ]?([A-Z0-9]{0,6})$/.exec(addressee);
  return warning ? { sort: 'warning', line: warning[1] || 'NWS', group: null } : null;
}

export const isAnnouncement = (line: string): boolean => /^[A-Z]$/.test(line);
