/** What the mark of the internet side says of how a packet came there (common practice, from memory). */
export const Q_CONSTRUCTS: Readonly<Record<string, string>> = {
  qAC: 'sent by its own station over a verified connection to the internet',
  qAX: 'sent over a connection to the internet that was not verified',
  qAU: 'sent to the internet side without a connection',
  qAR: 'heard by radio by the gateway, which also sends',
  qAr: 'heard by radio by a station that passed it on over another gateway',
  qAO: 'heard by radio by a gateway that only receives',
  qAo: 'heard by radio by a station that only receives',
  qAS: 'came from a server that does not say where it had it from',
  qAI: 'traced: every server signed',
  qAZ: 'meant for one server only',
};

/** Marks of a packet that the gateway itself heard by radio. */
const BY_RADIO = new Set(['qAR', 'qAr', 'qAO', 'qAo']);
export const heardByRadio = (mark: string): boolean => BY_RADIO.has(mark);
