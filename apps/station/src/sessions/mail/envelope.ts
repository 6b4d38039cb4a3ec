import { randomBytes } from 'node:crypto';

/**
 * The envelope identifier of a mail (RFC 3461 §4.4), by which a delivery report tells what it is about. Whoever gets the mail can read its
 * Message-ID; the envelope stays between us and the gateway, so that a forged report cannot name it.
 */
export const newEnvelope = (): string => randomBytes(15).toString('hex');
