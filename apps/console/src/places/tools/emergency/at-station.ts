import { useQuery } from '@tanstack/react-query';
import type { NewEmergency } from '@tombolo/contract';
import { emergencyRoutes } from '@tombolo/contract/routes/emergency';
import { ask } from '../../../live/ask';

/** Who has heard us changes by the second when it matters. */
const EVERY_MS = 3000;

export const emergencyAtStation = {
  call: (body: NewEmergency) => ask(emergencyRoutes.callForHelp, { body }),
  end: () => ask(emergencyRoutes.endEmergency, {}),
};
export const useEmergencyNow = () =>
  useQuery({
    queryKey: ['emergency'],
    queryFn: () => ask(emergencyRoutes.emergencyNow, {}),
    refetchInterval: EVERY_MS,
  });
