import { EVERYBODY } from '@tombolo/core';
import type { Settings } from '@tombolo/contract';
import type { EntityManager } from 'typeorm';
import type { NewEvent } from '../../store/events';
import type { Stored } from '../store-heard';
import { meshConfigs, type MeshConfig } from './config';
import { openFrame } from './open';
import { noteAck, noteRepeat, type Received } from './own-frames';
import { keepSealed, keepText } from './texts';

/** What stored packets of the mesh mean for our own items: our frames repeated, acknowledgements, texts for us. */
export async function applyMesh(
  manager: EntityManager,
  stored: readonly Stored[],
  settings: Settings,
): Promise<NewEvent[]> {
  const ofMesh = stored.filter(({ understood }) => understood.mesh !== null);
  if (ofMesh.length === 0) return [];
  const configs = await meshConfigs(manager);
  const touched = new Set<string>();
  for (const row of ofMesh) {
    const config = configs.get(row.understood.heard.bearerId ?? '');
    if (config) await apply(manager, row, config, settings, touched);
  }
  const bearers = new Set(ofMesh.flatMap(({ understood }) => understood.heard.bearerId ?? []));
  return [
    ...[...touched].map((id): NewEvent => ({ type: 'item', data: { id } })),
    ...[...bearers].map((bearerId): NewEvent => ({ type: 'mesh', data: { bearerId } })),
  ];
}

async function apply(
  manager: EntityManager,
  { understood, packetId, isNewPacket }: Stored,
  config: MeshConfig,
  settings: Settings,
  touched: Set<string>,
): Promise<void> {
  const { heard, mesh, line } = understood;
  const frame = mesh!;
  const bearerId = heard.bearerId!;
  const received: Received = {
    bearerId,
    frame,
    octets: heard.raw,
    line,
    at: new Date(heard.heardAtMs),
    packetId,
    touched,
  };
  if (frame.sender === config.node) return noteRepeat(manager, received);
  // A further copy of the same transmission says nothing new.
  if (!isNewPacket) return;
  const opened = openFrame(config, frame);
  const toUs = frame.addressee === config.node;
  if (opened.content === null) {
    // Sealed broadcasts of others are none of our business: that the node was heard is noted.
    if (toUs) await keepSealed(manager, received, config, opened.reason);
    return;
  }
  const { content, channel } = opened;
  if (content.kind === 'text' && (toUs || (frame.addressee === EVERYBODY && channel !== null)))
    await keepText(manager, received, config, settings, content, channel);
  else if (content.kind === 'acknowledgement' && toUs && channel !== null)
    await noteAck(manager, received, content.of, channel);
}
