/** What lies on the boards at the first start, minutes before it. */
export const boardMessages: readonly {
  readonly at: 'QT1BB-4' | 'QT6BB-4';
  readonly minutesAgo: number;
  readonly bulletin: boolean;
  readonly from: string;
  readonly to: string;
  readonly subject: string;
  readonly text: string;
}[] = [
  {
    at: 'QT1BB-4',
    minutesAgo: 190,
    bulletin: true,
    from: 'QT1NC',
    to: 'NEWS@SOUND',
    subject: 'Tides until Thursday',
    text: 'High water Hollinport 0412Z and 1638Z, 1.9 m above the mark.\nThe Oxbar causeway stays closed two hours either side.',
  },
  {
    at: 'QT6BB-4',
    minutesAgo: 150,
    bulletin: true,
    from: 'QT6CL',
    to: 'NEWS@SOUND',
    subject: 'Clinic hours on Veil',
    text: 'The clinic is open day and night.\nBring your medicines in a dry bag.',
  },
  {
    at: 'QT1BB-4',
    minutesAgo: 70,
    bulletin: false,
    from: 'QT1NC',
    to: 'QT2AR@QT1BB-4',
    subject: 'Shelter list',
    text: 'Please send the number of people at the school with every roll call.\nNames are not needed.',
  },
];

export const FORWARD_EVERY_MIN = 20;
