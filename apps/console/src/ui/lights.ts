/** The three lights. Every pair that carries text passes WCAG 2.2 AA (tested). */
export interface Look {
  /** Ground of the page. */
  readonly paper: string;
  /** Raised or entered: fields, the bar. */
  readonly leaf: string;
  readonly ink: string;
  readonly inkSoft: string;
  readonly rule: string;
  /** The one accent: what can be acted on. */
  readonly tide: string;
  readonly onTide: string;
  /** Progress: the sand of the causeway. */
  readonly sand: string;
  readonly sandText: string;
  /** Alarms only. */
  readonly alarm: string;
}

export const LIGHTS = ['day', 'dusk', 'watch'] as const;
export type Light = (typeof LIGHTS)[number];

export const looks: Readonly<Record<Light, Look>> = {
  day: {
    paper: '#f4efe3',
    leaf: '#fcf9f1',
    ink: '#19222c',
    inkSoft: '#4b5560',
    rule: '#c8bea6',
    tide: '#14596b',
    onTide: '#ffffff',
    sand: '#ad7c2c',
    sandText: '#7a4f0e',
    alarm: '#a1201c',
  },
  dusk: {
    paper: '#14202b',
    leaf: '#1c2b38',
    ink: '#ebe4d2',
    inkSoft: '#b4bab8',
    rule: '#3c4c59',
    tide: '#83c6d4',
    onTide: '#0d1a22',
    sand: '#d8a85c',
    sandText: '#e3bb7c',
    alarm: '#ff9185',
  },
  watch: {
    paper: '#110404',
    leaf: '#1d0907',
    ink: '#f19257',
    inkSoft: '#cf7a46',
    rule: '#552516',
    tide: '#ff8f4d',
    onTide: '#110404',
    sand: '#c2632a',
    sandText: '#e08548',
    alarm: '#ff6d5c',
  },
};

export const LIGHT_WORDS: Readonly<Record<Light, string>> = {
  day: 'Day: ink on paper, for sun',
  dusk: 'Dusk: dark',
  watch: 'Watch: dark red, keeps night sight',
};
