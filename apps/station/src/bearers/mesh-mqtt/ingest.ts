import { EVERYBODY, meshFrameLine } from '@tombolo/core';
import type { Settings } from '@tombolo/contract';
import { appendEvents, type NewEvent } from '../../store/events';
import { noteNode, type MeshKnownContext } from './nodes';
import { openFrame } from './open';
import { noteAck, noteRepeat, type Received } from './own-frames';
import { keepSealed, keepText } from './texts';
import type { MeshHeard } from './wire';

export interface MeshIngestContext extends MeshKnownContext {
  readonly settings: () => Promise<Settings>;
}

/** Stores what a frame of the mesh means: nodes, our frames repeated, acknowledgements, texts. */
export async function ingestMesh(
  { config, bearerId, database, now, settings }: MeshIngestContext,
  heard: MeshHeard,
  heardAtMs = now(),
): Promise<void> {
  const at = new Date(heardAtMs);
  const { frame } = heard;
  const current = await settings();
  await database.transaction(async (manager) => {
    const events: NewEvent[] = [];
    const received: Received = { bearerId, heard, line: meshFrameLine(frame, heard.octets), at, events };
    if (frame.sender === config.node) {
      await noteRepeat(manager, received);
    } else {
      const opened = openFrame(config, frame);
      await noteNode(manager, bearerId, heard, opened.content, at);
      events.push({ type: 'mesh', data: { bearerId, node: frame.sender } });
      const toUs = frame.addressee === config.node;
      if (opened.content === null) {
        // Sealed broadcasts of others are none of our business: that the node was heard is noted above.
        if (toUs) await keepSealed(manager, received, config, opened.reason);
      } else if (opened.content.kind === 'text') {
        const { content, channel } = opened;
        if (toUs || (frame.addressee === EVERYBODY && channel !== null))
          await keepText(manager, received, config, current, content, channel);
      } else if (opened.content.kind === 'acknowledgement' && toUs && opened.channel !== null) {
        await noteAck(manager, received, opened.content.of, opened.channel);
      }
    }
    await appendEvents(manager, events, at);
  });
}
