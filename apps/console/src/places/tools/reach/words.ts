import {
  chanceOfMargin,
  distanceInWords,
  metresInWords,
  servedBy,
  type DistanceUnit,
  type ModemSetting,
  type Reach,
} from '@tombolo/core';

/** What a margin means, in one word for the eye and the ear. */
export function verdictOf(marginDb: number): 'bears it' | 'mostly' | 'now and then' | 'hardly' {
  const served = servedBy(marginDb);
  return served === 'well' ? 'bears it' : served;
}

/** A reckoning is never sure: neither all nor none. */
const nearly = (percent: number): number => Math.min(99, Math.max(1, Math.round(percent)));

/** With the sign that numbers have. */
export const decibels = (value: number, digits = 0): string => {
  const size = Math.abs(value).toFixed(digits);
  return value < 0 && Number(size) !== 0 ? `−${size}` : size;
};

export interface SettingLine {
  readonly setting: ModemSetting;
  /** Of the weaker of the two directions. */
  readonly marginDb: number;
  readonly verdict: ReturnType<typeof verdictOf>;
  readonly percent: number;
}

/** What each setting has in hand: an answer has to come back, so the weaker direction counts. */
export const settingLines = (settings: readonly ModemSetting[], weakerDbm: number): SettingLine[] =>
  settings.map((setting) => {
    const marginDb = weakerDbm - setting.sensitivityDbm;
    return { setting, marginDb, verdict: verdictOf(marginDb), percent: nearly(100 * chanceOfMargin(marginDb)) };
  });

/** Whether and where the ground stands in the way. */
export function groundWords({ worst, groundDb, known }: Reach, unit: DistanceUnit): string {
  if (known === 0)
    return 'No elevation is known here: the ground was taken as sea, and hills are not in the reckoning.';
  const open =
    known < 1 ? ` For ${Math.round(100 * (1 - known))} % of the way no elevation is known: it was taken as sea.` : '';
  if (!worst) return `There is nothing between the two.${open}`;
  const where = `${distanceInWords(worst.distanceKm, unit)} from the start`;
  const share = -worst.aboveM / worst.zoneM;
  const said =
    worst.aboveM > 0
      ? `The ground stands ${metresInWords(worst.aboveM, unit)} above the straight line ${where}, and costs ${groundDb.toFixed(0)} dB.`
      : share < 0.6
        ? `The two see each other, but the ground comes close ${where}: ${Math.round(100 * share)} % of the first Fresnel zone is free, and 60 % should be. It costs ${groundDb.toFixed(0)} dB.`
        : `The way is clear; the ground comes nearest ${where}.`;
  return said + open;
}
