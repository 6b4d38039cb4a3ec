/** Solar constant as FAO-56 uses it, MJ a square metre and minute. */
const SOLAR_CONSTANT = 0.082;
const MJ_PER_KWH = 3.6;

/**
 * Energy of the sun on a level square metre above the air, kWh a day: FAO Irrigation and Drainage Paper 56, equations 21 to 25 (from
 * memory). `dayOfYear` from 1. Where the sun does not rise it is 0, where it does not set the whole day counts.
 */
export function sunAboveAirKwh(latitudeDeg: number, dayOfYear: number): number {
  const latitude = (latitudeDeg * Math.PI) / 180;
  const yearly = (2 * Math.PI * dayOfYear) / 365;
  const distance = 1 + 0.033 * Math.cos(yearly);
  const declination = 0.409 * Math.sin(yearly - 1.39);
  const sunset = Math.acos(Math.min(1, Math.max(-1, -Math.tan(latitude) * Math.tan(declination))));
  const height =
    sunset * Math.sin(latitude) * Math.sin(declination) + Math.cos(latitude) * Math.cos(declination) * Math.sin(sunset);
  return Math.max(0, ((24 * 60) / Math.PI) * SOLAR_CONSTANT * distance * height) / MJ_PER_KWH;
}

/** The day in the middle of each month, which stands for it. */
const MIDDLE_DAYS = [15, 46, 74, 105, 135, 166, 196, 227, 258, 288, 319, 349];

export interface Panel {
  readonly areaM2: number;
  /** Of the sun’s energy that becomes current. */
  readonly efficiency: number;
  /** Of it that comes out of the cell again: charging and its losses. */
  readonly throughCell: number;
  /** Of the sun above the air that reaches the panel, by the month’s weather: about 0.3 in a grey winter, 0.7 in a dry summer. */
  readonly clearness: number;
}

/** What a panel that lies level gives a node in a day of each month, Wh. A tilted one gives more in winter; what shades it is not in it. */
export const panelWhByMonth = (latitudeDeg: number, { areaM2, efficiency, throughCell, clearness }: Panel): number[] =>
  MIDDLE_DAYS.map((day) => 1000 * sunAboveAirKwh(latitudeDeg, day) * clearness * areaM2 * efficiency * throughCell);

/** The months, from 0, in which a panel gives less in a day than is drawn. */
export const shortMonths = (givenWh: readonly number[], drawnWh: number): number[] =>
  givenWh.flatMap((wh, month) => (wh < drawnWh ? [month] : []));
