/**
 * Goodput of a direct connection at 1200 Bd with turnarounds and 1 % of the frames lost, octets a second. Measured by
 * `npm run bench -- connected` (56.1).
 */
const GOODPUT = 56;
/** Setting up, asking and answering before the first octet that counts, s. An estimate. */
const SETUP_S = 12;

/** How long octets take over a connection at 1200 Bd, s: each digipeater sends every frame once more on the same channel. */
export const connectionSeconds = (octets: number, digipeaters: number): number =>
  Math.round(SETUP_S + (octets * (1 + digipeaters)) / GOODPUT);
