import { z } from 'zod';
import { byUuid } from '../parameters';
import { newRelay, newStandingRule, relayProposal, ruleChange, standingRule } from '../relay';
import { repeatingNow } from '../repeating';
import { itemDetail } from '../traffic';
import { route } from './route';

/** Handing on, by hand and by standing rules. */
export const relayRoutes = {
  repeatingNow: route({
    method: 'get',
    path: '/repeating',
    summary: 'Whether packets of others are repeated, and whether that helps anybody',
    answer: repeatingNow,
  }),
  relays: route({
    method: 'get',
    path: '/items/:id/relays',
    summary: 'Ways on for an arrived item',
    params: byUuid,
    answer: z.array(relayProposal),
  }),
  relay: route({
    method: 'post',
    path: '/items/:id/relays',
    summary: 'Hand an item on',
    params: byUuid,
    body: newRelay,
    answer: itemDetail,
    status: 201,
  }),
  rules: route({
    method: 'get',
    path: '/rules',
    summary: 'Standing rules of the relay desk',
    answer: z.array(standingRule),
  }),
  addRule: route({
    method: 'post',
    path: '/rules',
    summary: 'Add a rule, turned off',
    body: newStandingRule,
    answer: standingRule,
    status: 201,
  }),
  changeRule: route({
    method: 'patch',
    path: '/rules/:id',
    summary: 'Turn a rule on or off, or change what it does: that turns it off',
    params: byUuid,
    body: ruleChange,
    answer: standingRule,
  }),
  removeRule: route({ method: 'delete', path: '/rules/:id', summary: 'Remove a rule', params: byUuid, answer: null }),
};
