import type { BearerConfigInput, BearerView, Settings } from '@tombolo/contract';
import { REGIONS, type Connection } from '@tombolo/core';
import { consoleKind, consoleKinds } from '../registry';

/** The configuration of a bearer that works the modem there, on the packet channel of the region. */
export function configAtModem(at: Connection, region: Settings['region'], txDelayMs?: number): BearerConfigInput {
  const kind = consoleKinds().find(({ modem }) => modem?.by === at.by);
  if (!kind?.modem) throw new Error(`no kind of bearer reaches a modem by ${at.by}`);
  const frequencyMHz = REGIONS.find(({ id }) => id === region)?.packetMHz ?? null;
  return kind.modem.config(at, { frequencyMHz, ...(txDelayMs !== undefined && { txDelayMs }) });
}

/** Whether a bearer works the modem there already. */
export const isAtModem = ({ config }: Pick<BearerView, 'config'>, at: Connection): boolean =>
  consoleKind(config.kind).modem?.isAt(config as never, at) ?? false;
