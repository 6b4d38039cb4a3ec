import {
  airTimeMs,
  DEFAULT_TIMING,
  encodeMessage,
  frameToSend,
  MAX_MESSAGE_TEXT,
  octetsOfText,
  splitText,
} from '@tombolo/core';

/** As how many texts it goes out; null when it does not. */
export function partsOf(text: string): readonly string[] | null {
  if (octetsOfText(text).length <= MAX_MESSAGE_TEXT) return [text];
  const split = splitText(text, 'a', MAX_MESSAGE_TEXT);
  return split.ok ? split.value : null;
}

/** Seconds that one text takes on the air, over a path, once. */
export function frameS(
  text: string,
  { own, to, txDelayMs }: { readonly own: string; readonly to: string; readonly txDelayMs: number },
  path: readonly string[],
): number {
  const info = encodeMessage({ addressee: to, text: text === '' ? ' ' : text, number: '00' });
  const frame = info.ok ? frameToSend(own, path, info.value) : info;
  return frame.ok ? airTimeMs(frame.value, { ...DEFAULT_TIMING, txDelayMs }) / 1000 : 1;
}
