import { useQuery } from '@tanstack/react-query';
import type { NewSession } from '@tombolo/contract';
import { sessionRoutes } from '@tombolo/contract/routes/sessions';
import { ask } from './ask';

export const sessionApi = {
  meshNodes: () => ask(sessionRoutes.meshNodes, {}),
  offers: (bearerId: string) => ask(sessionRoutes.offers, { query: { bearerId } }),
  sessions: (bearerId: string) => ask(sessionRoutes.sessions, { query: { bearerId } }),
  beginSession: (body: NewSession) => ask(sessionRoutes.beginSession, { body }),
  typeLine: (id: string, line: string) => ask(sessionRoutes.typeLine, { params: { id }, body: { line } }),
  endSession: (id: string) => ask(sessionRoutes.endSession, { params: { id } }),
};

export const useMeshNodes = () => useQuery({ queryKey: ['mesh nodes'], queryFn: sessionApi.meshNodes });

export const useOffers = (bearerId: string) =>
  useQuery({ queryKey: ['offers', bearerId], queryFn: () => sessionApi.offers(bearerId) });

export const useSessions = (bearerId: string) =>
  useQuery({ queryKey: ['sessions', bearerId], queryFn: () => sessionApi.sessions(bearerId) });
