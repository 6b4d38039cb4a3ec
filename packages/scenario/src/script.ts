/** What the people of the district say by radio, and when, relative to the first start (minutes). */
export interface ScriptedText {
  readonly atMin: number;
  readonly from: string;
  readonly to: string;
  readonly text: string;
  /** Numbered texts are repeated until they are acknowledged. */
  readonly numbered: boolean;
}

export const scriptedTexts: readonly ScriptedText[] = [
  {
    atMin: -338,
    from: 'QT6CL',
    to: 'QT1NC',
    text: 'Insulin for two patients lasts until tomorrow noon',
    numbered: true,
  },
  { atMin: -322, from: 'QT1NC', to: 'QT6CL', text: 'Noted. Looking for a boat', numbered: true },
  { atMin: -251, from: 'QT1NC', to: 'QT4LB-8', text: 'Can you take a cool box to Veil after the tide', numbered: true },
  { atMin: -243, from: 'QT4LB-8', to: 'QT1NC', text: 'Yes, after 1500 if the swell allows', numbered: true },
  {
    atMin: -190,
    from: 'QT1NC',
    to: 'QT2AR-7',
    text: 'Please take over texts for the Skerras from Beacon Rigg',
    numbered: false,
  },
  {
    atMin: -96,
    from: 'QT7SH-5',
    to: 'QT2AR-7',
    text: 'School has 62 people, 11 children. Blankets short by 40',
    numbered: false,
  },
  {
    atMin: -41,
    from: 'QT3TK-14',
    to: 'QT1NC',
    text: 'Causeway ramp under water, turning back to depot',
    numbered: true,
  },
  {
    atMin: -12,
    from: 'QT7SH-5',
    to: 'QT2AR-7',
    text: 'Farm on Little Skerra asks when the ferry runs',
    numbered: false,
  },
  {
    atMin: 6,
    from: 'QT1NC',
    to: 'QT2AR-7',
    text: 'Roll call at the full hour, please report shelter count',
    numbered: true,
  },
  { atMin: 17, from: 'QT6CL', to: 'QT2AR-7', text: 'Any news of the boat with the cool box?', numbered: true },
];

/** Bulletins of net control: sent again at each interval until the next one replaces it. */
export const bulletins: readonly { readonly fromMin: number; readonly id: string; readonly text: string }[] = [
  { fromMin: -360, id: '1', text: 'Oxbar causeway closed. Phones out but Hollin. Net on this channel' },
  { fromMin: -200, id: '2', text: 'Gale NE 8 to 9 until midnight. No boats but lifeboat' },
  { fromMin: -60, id: '1', text: 'Ferry not before tomorrow 0700Z. Shelter: Skerra school, Oxbar hall' },
  { fromMin: 25, id: '3', text: 'Tarn Head may drop out: use WIDE1-1,WIDE2-1 and keep texts short' },
];

/** The tracker on the lifeboat calls for help, as an exercise: it raises the alarm, and clears it. */
export const LIFEBOAT_DRILL = { atMin: 40, forMin: 6, comment: 'EMERGENCY DRILL lifeboat' } as const;

export const BULLETIN_EVERY_MIN = 20;
export const HISTORY_MIN = 360;
