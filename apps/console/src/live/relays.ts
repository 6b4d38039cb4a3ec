import { useQuery } from '@tanstack/react-query';
import type { NewRelay, NewStandingRule, RuleChange } from '@tombolo/contract';
import { relayRoutes } from '@tombolo/contract/routes/relays';
import { ask } from './ask';

export const relayApi = {
  relays: (id: string) => ask(relayRoutes.relays, { params: { id } }),
  relay: (id: string, body: NewRelay) => ask(relayRoutes.relay, { params: { id }, body }),
  rules: () => ask(relayRoutes.rules, {}),
  addRule: (body: NewStandingRule) => ask(relayRoutes.addRule, { body }),
  changeRule: (id: string, body: RuleChange) => ask(relayRoutes.changeRule, { params: { id }, body }),
  removeRule: (id: string) => ask(relayRoutes.removeRule, { params: { id } }),
};

export const useRelays = (id: string, enabled: boolean) =>
  useQuery({ queryKey: ['relays', id], queryFn: () => relayApi.relays(id), enabled });

export const useRules = () => useQuery({ queryKey: ['rules'], queryFn: relayApi.rules });
