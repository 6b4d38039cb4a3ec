import { SerialPort } from 'serialport';
import type { OpenLine } from './equipment-link';

export interface SerialLine extends OpenLine {
  /** Sets the open device to another speed, and drops what came in before. Rejects with the reason in words. */
  setSpeed(speedBd: number): Promise<void>;
}

/** A serial device, or anything that looks like one, such as a wireless serial link. */
export function openSerialLine({ device, speedBd }: { readonly device: string; readonly speedBd: number }): SerialLine {
  const port = new SerialPort({ path: device, baudRate: speedBd, autoOpen: false });
  const downs = new Set<(problem: string | null) => void>();
  const ups: (() => void)[] = [];
  let ended: { readonly problem: string | null } | null = null;
  const end = (problem: string | null) => {
    if (ended) return;
    ended = { problem };
    for (const call of downs) call(problem);
  };
  /** Closed before it was open, it is closed as soon as it is. */
  let closing: { readonly problem: string | null } | null = null;
  const close = (problem: string | null) => {
    closing ??= { problem };
    if (port.isOpen) port.close(() => end(problem));
    else if (!port.opening) end(problem);
  };
  port.open((error) => {
    if (error) return end(serialWords(error, device));
    if (closing) return close(closing.problem);
    for (const call of ups) call();
  });
  port.on('error', (error) => close(serialWords(error, device)));
  // Pulled out, some devices end, others say that they are gone.
  port.on('end', () => close(`${device} was pulled out`));
  port.on('close', (error?: Error | null) => end(closing?.problem ?? (error ? `${device} was pulled out` : null)));
  return {
    stream: port,
    onUp: (call) => void ups.push(call),
    onDown(call) {
      if (ended) call(ended.problem);
      else downs.add(call);
      return () => downs.delete(call);
    },
    close: (problem) => close(problem ?? null),
    async setSpeed(baudRate) {
      const done = (call: (settled: (error?: Error | null) => void) => void) =>
        new Promise<void>((resolve, reject) =>
          call((error) => (error ? reject(new Error(serialWords(error, device))) : resolve())),
        );
      await done((settled) => port.update({ baudRate }, settled));
      await done((settled) => port.flush(settled));
    },
  };
}

/** Why a serial device cannot be used, in words. */
export function serialWords(error: Error, device: string): string {
  if (/No such file|ENOENT/i.test(error.message)) return `there is no ${device}: is it plugged in?`;
  if (/Permission denied|EACCES/i.test(error.message))
    return `this program may not open ${device}: ask whoever runs this machine`;
  if (/lock|busy|EBUSY|Resource temporarily unavailable/i.test(error.message))
    return `${device} is used by another program`;
  return `${device}: ${error.message}`;
}
