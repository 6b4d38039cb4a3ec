/** Free-space loss in dB (ITU-R P.525); the constant is 20·log10(4π·10⁹/c) for km and MHz. */
export const freeSpaceLossDb = (distanceKm: number, frequencyMHz: number): number =>
  32.4478 + 20 * Math.log10(frequencyMHz) + 20 * Math.log10(distanceKm);

/** Plane-earth loss in dB between antennas above flat ground (textbook two-ray approximation, no source). */
export const planeEarthLossDb = (distanceKm: number, heightM: number, otherHeightM: number): number =>
  40 * Math.log10(distanceKm * 1000) - 20 * Math.log10(heightM * otherHeightM);

/** Radio horizon in km over a smooth sea with 4/3 earth radius. */
export const radioHorizonKm = (heightM: number, otherHeightM: number): number =>
  4.12 * (Math.sqrt(heightM) + Math.sqrt(otherHeightM));

export interface RadioSite {
  /** Antenna above the sea, m. */
  readonly heightM: number;
  readonly powerW: number;
  readonly gainDbi: number;
  /** Loss by the surroundings of the antenna: indoors, behind a hill, beside a hull. */
  readonly clutterDb: number;
}

/** Received power in dBm; beyond the horizon each km costs a further dB after a step of 20 dB (common practice, no source). */
export function receivedPowerDbm(from: RadioSite, to: RadioSite, distanceKm: number, frequencyMHz: number): number {
  const distance = Math.max(0.01, distanceKm);
  const horizonKm = radioHorizonKm(from.heightM, to.heightM);
  const beyond = distance > horizonKm ? 20 + (distance - horizonKm) : 0;
  const loss = Math.max(
    freeSpaceLossDb(distance, frequencyMHz),
    planeEarthLossDb(distance, Math.max(1, from.heightM), Math.max(1, to.heightM)),
  );
  const powerDbm = 10 * Math.log10(from.powerW * 1000);
  return powerDbm + from.gainDbi + to.gainDbi - from.clutterDb - to.clutterDb - loss - beyond;
}
