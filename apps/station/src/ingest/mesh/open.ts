import { channelMark, decodeMeshContent, openPayload, type MeshContent, type MeshFrame } from '@tombolo/core';
import { keyOf, type MeshConfig } from './config';

/** What a frame says, as far as one of our channels opens it. */
export type Opened =
  | {
      readonly content: MeshContent;
      /** Null for what is in the clear on a channel that this station is not on. */
      readonly channel: string | null;
    }
  | { readonly content: null; readonly reason: string };

/** Opens a frame with the channels of this station. */
export function openFrame(config: MeshConfig, frame: MeshFrame): Opened {
  const marked = config.channels.filter(({ name, key }) => channelMark(name, keyOf(key)) === frame.mark);
  if (!frame.sealed) {
    const content = decodeMeshContent(frame.body);
    return content.ok
      ? { content: content.value, channel: marked.find(({ key }) => key === null)?.name ?? null }
      : { content: null, reason: content.error.reason };
  }
  for (const { name, key } of marked) {
    const octets = keyOf(key);
    if (!octets) continue;
    const opened = openPayload(frame.body, octets, frame);
    const content = opened.ok ? decodeMeshContent(opened.value) : opened;
    if (content.ok) return { content: content.value, channel: name };
  }
  return { content: null, reason: 'sealed under a key that this station does not hold' };
}
