import { z } from 'zod';
import { byUuid } from '../parameters';
import {
  byAddress,
  joinedService,
  keptService,
  serviceChange,
  servicesFile,
  serviceText,
  serviceTrial,
  serviceTried,
} from '../services';
import { itemDetail } from '../traffic';
import { route } from './route';

/** Services that are reached by message, and what they answer. */
export const serviceRoutes = {
  services: route({
    method: 'get',
    path: '/services',
    summary: 'The directory of services',
    answer: z.array(keptService),
  }),
  keepService: route({
    method: 'put',
    path: '/services/:address',
    summary: 'Add a service, or change it',
    params: byAddress,
    body: serviceChange,
    answer: keptService,
  }),
  removeService: route({
    method: 'delete',
    path: '/services/:address',
    summary: 'Take a service off the directory',
    params: byAddress,
    answer: null,
  }),
  importServices: route({
    method: 'post',
    path: '/services',
    summary: 'Take over a file of services; those of the same address are replaced',
    body: servicesFile,
    bodyLimit: '2mb',
    answer: z.array(keptService),
  }),
  servicesSchema: route({
    method: 'get',
    path: '/services/schema',
    summary: 'JSON Schema of a file of services',
    answer: z.record(z.string(), z.unknown()),
  }),
  servicesFile: route({
    method: 'get',
    path: '/services/file',
    summary: 'The directory as a file',
    answer: servicesFile,
  }),
  joinedServices: route({
    method: 'get',
    path: '/services/joined',
    summary: 'What was begun at services and not ended since',
    answer: z.array(joinedService),
  }),
  serviceTexts: route({
    method: 'get',
    path: '/services/:address/texts',
    summary: 'Texts that came from a service lately, and which pattern knows each',
    params: byAddress,
    answer: z.array(serviceText),
  }),
  tryPattern: route({
    method: 'post',
    path: '/services/:address/trials',
    summary: 'Which of these texts a pattern would know',
    params: byAddress,
    body: serviceTrial,
    answer: serviceTried,
  }),
  belongsTo: route({
    method: 'put',
    path: '/items/:id/question',
    summary: 'Say which of several questions an answer of a service belongs to',
    params: byUuid,
    body: z.object({ question: z.uuid() }),
    answer: itemDetail,
  }),
};
