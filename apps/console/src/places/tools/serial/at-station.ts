import { useQuery } from '@tanstack/react-query';
import type { NewProbe } from '@tombolo/contract';
import { serialRoutes } from '@tombolo/contract/routes/serial';
import { ask } from '../../../live/ask';

/** Each speed is listened to for two seconds. */
const PROBE_WITHIN_MS = 60_000;
/** As quick as somebody who pulls a plug and looks. */
const PORTS_EVERY_MS = 1000;

export const usePorts = () =>
  useQuery({
    queryKey: ['serial ports'],
    queryFn: () => ask(serialRoutes.serialPorts, {}),
    refetchInterval: PORTS_EVERY_MS,
  });
export const probe = (body: NewProbe) => ask(serialRoutes.probeSpeeds, { body }, { withinMs: PROBE_WITHIN_MS });
