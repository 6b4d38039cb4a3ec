/** What a node draws in each of its states, mA at the voltage of its cell, and how long it is in them. */
export interface Drawn {
  readonly sleepMa: number;
  readonly receiveMa: number;
  readonly transmitMa: number;
  /** Shares of the time; the rest it sleeps. */
  readonly receiveShare: number;
  readonly transmitShare: number;
}

export interface NodeCell {
  readonly capacityMah: number;
  readonly voltageV: number;
  /** Of its capacity that reaches the node: cold, age and the regulator take the rest. */
  readonly usableShare: number;
}

/** Mean current, mA. */
export const meanCurrentMa = ({ sleepMa, receiveMa, transmitMa, receiveShare, transmitShare }: Drawn): number =>
  receiveMa * receiveShare + transmitMa * transmitShare + sleepMa * Math.max(0, 1 - receiveShare - transmitShare);

/** Running time on the cell alone, h: capacity over mean current. Infinite where nothing is drawn. */
export const runningHours = (drawn: Drawn, { capacityMah, usableShare }: NodeCell): number =>
  (capacityMah * usableShare) / meanCurrentMa(drawn);

/** What it takes in a day, Wh. */
export const wattHoursADay = (drawn: Drawn, { voltageV }: Pick<NodeCell, 'voltageV'>): number =>
  (meanCurrentMa(drawn) * voltageV * 24) / 1000;
