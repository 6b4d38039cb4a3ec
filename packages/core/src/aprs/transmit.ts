import { parseAddress } from '../link/address';
import { encodeFrame, uiFrame } from '../link/ax25';
import { fail, type Parsed } from '../result';

/**
 * Our destination address. `APZ` is the prefix left to experimental software in the destination
 * table of the Protocol Reference 1.0.1, ch. 4.
 */
export const TO_CALL = 'APZTOM';

/** Octets (without FCS) of a UI frame that carries an information field from us over a path. */
export function frameToSend(source: string, path: readonly string[], info: Uint8Array): Parsed<Uint8Array> {
  const from = parseAddress(source);
  if (!from.ok) return fail(from.error.at, `own call sign: ${from.error.reason}`);
  const to = parseAddress(TO_CALL);
  if (!to.ok) return to;
  const hops = [];
  for (const element of path) {
    const hop = parseAddress(element);
    if (!hop.ok) return fail(hop.error.at, `path element ${element}: ${hop.error.reason}`);
    hops.push(hop.value);
  }
  return encodeFrame(uiFrame(from.value, to.value, hops, info));
}
