import { fail, ok, type Parsed } from '../result';

/** An AX.25 station address: call sign of 1–6 characters A–Z 0–9, and SSID 0–15. */
export interface Address {
  readonly call: string;
  readonly ssid: number;
}

/** `QT2AR-7`; an SSID of 0 is not written. */
export const formatAddress = (address: Address): string =>
  address.ssid === 0 ? address.call : `${address.call}-${address.ssid}`;

/** The call sign without its SSID, of whatever is written like one: whose station it is. */
export const baseCall = (call: string): string => call.split('-', 1)[0]!;

/**
 * Reads `CALL` or `CALL-SSID` in upper case, as AX.25 can carry it (v2.2 §3.12).
 * Fails with the offset of the first character that does not fit.
 */
export function parseAddress(text: string): Parsed<Address> {
  const dash = text.indexOf('-');
  const call = dash < 0 ? text : text.slice(0, dash);
  if (call.length === 0) return fail(0, 'the call sign is empty');
  if (call.length > 6) return fail(6, 'a call sign has at most 6 characters');
  for (let i = 0; i < call.length; i++) {
    if (!isCallOctet(call.charCodeAt(i))) return fail(i, `“${call.charAt(i)}” is not A–Z or 0–9`);
  }
  if (dash < 0) return ok({ call, ssid: 0 });
  const digits = text.slice(dash + 1);
  if (!/^(?:\d|1[0-5])$/.test(digits)) return fail(dash + 1, 'the SSID is a number from 0 to 15');
  return ok({ call, ssid: Number(digits) });
}

/** A–Z or 0–9. */
export const isCallOctet = (octet: number): boolean =>
  (octet >= 0x30 && octet <= 0x39) || (octet >= 0x41 && octet <= 0x5a);

/** Same call and SSID. */
export const sameAddress = (a: Address, b: Address): boolean => a.call === b.call && a.ssid === b.ssid;

/**
 * Checks what an operator typed as an own call sign: what AX.25 can carry, and the shape that
 * ITU Radio Regulations Art. 19 §III gives amateur calls – letters and at least one digit, ending
 * in a letter. Lower case is accepted and raised.
 */
export function parseStationCall(text: string): Parsed<Address> {
  const address = parseAddress(text.trim().toUpperCase());
  if (!address.ok) return address;
  const { call } = address.value;
  if (call.length < 3) return fail(0, 'a station call sign has at least 3 characters');
  if (!/\d/.test(call)) return fail(0, 'a station call sign contains a digit');
  if (!/[A-Z]$/.test(call)) return fail(call.length - 1, 'a station call sign ends in a letter');
  return address;
}
