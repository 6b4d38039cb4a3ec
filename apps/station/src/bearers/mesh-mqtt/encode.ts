import { createHash } from 'node:crypto';
import { channelMark, fail, NONCE_OCTETS, octetsOfText, ok, sealPayload, type Parsed } from '@tombolo/core';
import type { BearerConfig } from '@tombolo/contract';
import type { EncodedLeg, OutgoingLeg } from '../bearer';
import type { MeshBody, MeshSend } from './wire';

export type MeshConfig = Extract<BearerConfig, { kind: 'mesh-mqtt' }>;

export const keyOf = (base64: string | null): Uint8Array | null =>
  base64 === null ? null : new Uint8Array(Buffer.from(base64, 'base64'));

export const meshIdentity = (id: string): Buffer => Buffer.from(`mesh/${id}`);

/**
 * A leg as a message for the node. Each transmission has a packet number of its own, or nodes that saw the first would not repeat it; a
 * try of which nobody knows whether the node took it is the same transmission. The identity of the text is the same in all.
 */
export function encodeMeshLeg(config: MeshConfig, leg: OutgoingLeg, transmission: number): Parsed<EncodedLeg> {
  const channel = config.channels.find(({ name }) => name === leg.detail?.channel);
  if (!channel) return fail(0, `this mesh has no channel “${leg.detail?.channel ?? ''}” any more`);
  const digest = createHash('sha256').update(`${leg.id}/${transmission}`).digest();
  const id = digest.subarray(0, 4).toString('hex');
  const to = leg.detail?.node ?? 'all';
  const body: MeshBody = leg.detail?.acknowledges
    ? { kind: 'ack', n: leg.detail.acknowledges }
    : { kind: 'text', n: leg.number ?? id.slice(0, 4), text: Buffer.from(leg.info).toString('utf8') };
  const key = keyOf(channel.key);
  // The identifier of a leg is used once in the world, and each try has its own: so has the nonce.
  const nonce = digest.subarray(4, 4 + NONCE_OCTETS);
  const context = { id, from: config.node, to };
  const message: MeshSend = {
    v: 1,
    id,
    to,
    hopLimit: config.hopLimit,
    channel: channelMark(channel.name, key),
    body: key ? null : body,
    sealed: key
      ? Buffer.from(sealPayload(octetsOfText(JSON.stringify(body)), key, nonce, context)).toString('base64')
      : null,
  };
  const text = JSON.stringify(message);
  return ok({ frame: octetsOfText(text), line: text, identity: meshIdentity(id) });
}
