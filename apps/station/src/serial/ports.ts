import { readdir } from 'node:fs/promises';

/** What serial devices are called, wired or wireless (common practice of the system, no source). */
const SERIAL = /^(?:tty(?:USB|ACM|AMA|XRUSB)\d+|ttyS\d+|rfcomm\d+)$/;
/** Listed whether anything is there or not. */
const BUILT_IN = /^ttyS\d+$/;

export interface SerialPortName {
  readonly device: string;
  /** Part of the machine: it is there also when nothing is plugged in. */
  readonly builtIn: boolean;
}

/** Serial devices that there are now; of which one is plugged in is seen by looking before and after. */
export async function serialPorts(folder = '/dev'): Promise<SerialPortName[]> {
  const names = await readdir(folder).catch(() => []);
  return names
    .filter((name) => SERIAL.test(name))
    .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }))
    .map((name) => ({ device: `/dev/${name}`, builtIn: BUILT_IN.test(name) }))
    .sort((a, b) => Number(a.builtIn) - Number(b.builtIn));
}
