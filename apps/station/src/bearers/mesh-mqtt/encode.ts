import { createHash } from 'node:crypto';
import {
  channelMark,
  encodeMeshContent,
  encodeMeshFrame,
  EVERYBODY,
  fail,
  meshFrameLine,
  NONCE_OCTETS,
  ok,
  sealPayload,
  type MeshContent,
  type Parsed,
} from '@tombolo/core';
import { keyOf, meshIdentity, type MeshConfig } from '../../ingest/mesh/config';
import type { EncodedLeg, OutgoingLeg } from '../../transmissions/bearer';

/**
 * A leg as a frame of the mesh. Each transmission has a packet number of its own, or nodes that saw the first would not repeat it; a
 * try of which nobody knows whether the node took it is the same transmission. The identity of the text is the same in all.
 */
export function encodeMeshLeg(config: MeshConfig, leg: OutgoingLeg, transmission: number): Parsed<EncodedLeg> {
  const channel = config.channels.find(({ name }) => name === leg.detail?.channel);
  if (!channel) return fail(0, `this mesh has no channel “${leg.detail?.channel ?? ''}” any more`);
  const digest = createHash('sha256').update(`${leg.id}/${transmission}`).digest();
  const number = digest.subarray(0, 4).toString('hex');
  const acknowledges = leg.detail?.acknowledges;
  if (acknowledges !== undefined && !/^[0-9a-f]{8}$/.test(acknowledges))
    return fail(0, 'it answers a packet of an earlier version, which cannot be told any more');
  const content: MeshContent = acknowledges
    ? { kind: 'acknowledgement', of: acknowledges }
    : { kind: 'text', n: leg.number ?? number.slice(0, 4), text: Buffer.from(leg.info).toString('utf8') };
  const key = keyOf(channel.key);
  const head = {
    sealed: key !== null,
    mark: channelMark(channel.name, key),
    sender: config.node,
    addressee: leg.detail?.node ?? EVERYBODY,
    number,
    hopsLeft: config.hopLimit,
    hops: 0,
  };
  const plain = encodeMeshContent(content);
  // The identifier of a leg is used once in the world, and each try has its own: so has the nonce.
  const nonce = new Uint8Array(digest.subarray(4, 4 + NONCE_OCTETS));
  const frame = { ...head, body: key ? sealPayload(plain, key, nonce, head) : plain };
  const octets = encodeMeshFrame(frame);
  return octets.ok
    ? ok({ frame: octets.value, line: meshFrameLine(frame, octets.value), identity: meshIdentity(number) })
    : octets;
}
