import { tacticalNameOf, type TacticalChange } from '@tombolo/contract';
import { tacticalRoutes } from '@tombolo/contract/routes/tactical';
import { useQuery } from '@tanstack/react-query';
import { ask } from './ask';

export const giveTacticalName = (body: TacticalChange) => ask(tacticalRoutes.giveTacticalName, { body });
export const endTacticalName = (id: string) => ask(tacticalRoutes.endTacticalName, { params: { id } });

export const useTacticalNames = () =>
  useQuery({ queryKey: ['tactical names'], queryFn: () => ask(tacticalRoutes.tacticalNames, {}) });

/** The tactical name of a station at an instant; without one, the name that holds. Null where it has none, or none is known yet. */
export const useTacticalName = (call: string, at?: string): string | null =>
  tacticalNameOf(useTacticalNames().data ?? [], call, at);
