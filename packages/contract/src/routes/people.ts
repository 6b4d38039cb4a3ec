import { z } from 'zod';
import { byUuid } from '../parameters';
import { peopleChange, person, personChange } from '../people';
import { route } from './route';

/** People who are reached through the station. */
export const peopleRoutes = {
  people: route({
    method: 'get',
    path: '/people',
    summary: 'People who are reached from here',
    answer: z.array(person),
  }),
  keepPerson: route({
    method: 'put',
    path: '/people/:id',
    summary: 'Add somebody, or change what is known of them',
    params: byUuid,
    body: personChange,
    answer: person,
  }),
  keepPeople: route({
    method: 'put',
    path: '/people',
    summary: 'Add or change several people, all or none',
    body: peopleChange,
    answer: z.array(person),
  }),
  removePerson: route({
    method: 'delete',
    path: '/people/:id',
    summary: 'Take somebody off the list',
    params: byUuid,
    answer: null,
  }),
};
