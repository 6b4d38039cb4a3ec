import { z } from 'zod';
import { byNumber, byUuid } from '../parameters';
import { alarm, alarmTaking, newWatch, watch, watchChange } from '../watch';
import { route } from './route';

/** Watches, and alarms that they raised. */
export const watchRoutes = {
  watches: route({
    method: 'get',
    path: '/watches',
    summary: 'What stations are watched for',
    answer: z.array(watch),
  }),
  addWatch: route({
    method: 'post',
    path: '/watches',
    summary: 'Watch a quantity of a station',
    body: newWatch,
    answer: watch,
    status: 201,
  }),
  changeWatch: route({
    method: 'patch',
    path: '/watches/:id',
    summary: 'Turn a watch on or off',
    params: byUuid,
    body: watchChange,
    answer: watch,
  }),
  removeWatch: route({
    method: 'delete',
    path: '/watches/:id',
    summary: 'Remove a watch',
    params: byUuid,
    answer: null,
  }),
  alarms: route({ method: 'get', path: '/alarms', summary: 'Alarms, the latest first', answer: z.array(alarm) }),
  takeAlarm: route({
    method: 'post',
    path: '/alarms/:id/taking',
    summary: 'Take an alarm by name; the first who does has it',
    params: byNumber,
    body: alarmTaking,
    answer: alarm,
  }),
  seeAlarm: route({
    method: 'post',
    path: '/alarms/:id/seen',
    summary: 'Say that an alarm was seen',
    params: byNumber,
    answer: alarm,
  }),
};
