import { DUTY_WINDOW_MS } from '@tombolo/core';
import type { EntityManager } from 'typeorm';
import { noteDuty } from '../../transmissions/duty';
import type { MeshAccount } from './wire';

/** The node's clock may be ahead of ours by so much. */
const AHEAD_MS = 120_000;

/** Puts down what the node was on the air by itself, minute by minute: told whole each time, each minute counts once. */
export async function noteMinutes(
  manager: EntityManager,
  {
    bearerId,
    subBand,
    account: { minutes },
    nowMs,
  }: {
    readonly bearerId: string;
    readonly subBand: string;
    readonly account: MeshAccount;
    readonly nowMs: number;
  },
): Promise<void> {
  for (const { at, ms } of minutes) {
    // A minute counts until its end has left the hour.
    const endMs = Date.parse(at) + 60_000;
    const inHour = endMs > nowMs - DUTY_WINDOW_MS && endMs < nowMs + AHEAD_MS;
    if (inHour) await noteDuty(manager, { bearerId, subBand, packet: `minute ${at}`, ms, cause: 'node' }, endMs);
  }
}
