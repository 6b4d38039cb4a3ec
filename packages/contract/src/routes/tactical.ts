import { z } from 'zod';
import { byUuid } from '../parameters';
import { tacticalChange, tacticalView } from '../tactical';
import { route } from './route';

/** Names of stations by their task. */
export const tacticalRoutes = {
  tacticalNames: route({
    method: 'get',
    path: '/tactical-names',
    summary: 'Which station goes by which tactical name, and went before; the last one first',
    answer: z.array(tacticalView),
  }),
  giveTacticalName: route({
    method: 'post',
    path: '/tactical-names',
    summary: 'Give a station a tactical name; whoever had it has it no more',
    body: tacticalChange,
    answer: tacticalView,
  }),
  endTacticalName: route({
    method: 'delete',
    path: '/tactical-names/:id',
    summary: 'A tactical name holds no more; what was before stays on record',
    params: byUuid,
    answer: null,
  }),
};
