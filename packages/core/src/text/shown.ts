/**
 * Characters that turn the direction of text, take no width or move the cursor: in a text from a stranger they can make one
 * thing look like another (Unicode Technical Report 36, bidirectional and invisible characters).
 */

const HIDDEN =
  /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u00ad\u061c\u180e\u200b-\u200f\u202a-\u202e\u2060-\u206f\ufeff\ufff9-\ufffb]/g;

/** A text as it can be shown: what would hide or turn something is written out, `⟨U+202E⟩`. The raw octets stay as they are. */
export const shown = (text: string): string =>
  text.replace(HIDDEN, (char) => `⟨U+${char.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}⟩`);
