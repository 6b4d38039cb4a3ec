import { useQuery } from '@tanstack/react-query';
import { serviceRoutes } from '@tombolo/contract/routes/services';
import { ask } from './ask';

/** The directory of services. */
export const useServices = () =>
  useQuery({ queryKey: ['services', 'directory'], queryFn: () => ask(serviceRoutes.services, {}) });

/** What was begun at services and not ended since. */
export const useJoined = () =>
  useQuery({ queryKey: ['services', 'joined'], queryFn: () => ask(serviceRoutes.joinedServices, {}) });
