import { isAnnouncement, type BulletinLine } from '@tombolo/core';

/** `Bulletin 4 for WX`, `Announcement B`, `Weather warning, WARN`. */
export function lineWords({ sort, line, group }: BulletinLine): string {
  if (sort === 'warning') return line === 'NWS' ? 'Weather warning' : `Weather warning, ${line}`;
  return `${sort === 'announcement' ? 'Announcement' : 'Bulletin'} ${line}${group ? ` for ${group}` : ''}`;
}

export const ownLineWords = ({ line, group }: { readonly line: string; readonly group: string }): string =>
  lineWords({ sort: isAnnouncement(line) ? 'announcement' : 'bulletin', line, group: group || null });
