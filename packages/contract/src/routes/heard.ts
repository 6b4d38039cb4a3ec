import { z } from 'zod';
import { failureQuery, failureView, heardQuery, packetDetail, packetSummary } from '../heard';
import {
  heardLink,
  readingsQuery,
  readingsView,
  stationChange,
  stationDetail,
  stationView,
  stationsQuery,
  trailView,
  trailsQuery,
} from '../stations';
import { pageOf } from '../paging';
import { byCall, byNumber } from '../parameters';
import { route } from './route';

/** What was heard: packets, stations, readings. */
export const heardRoutes = {
  packets: route({
    method: 'get',
    path: '/packets',
    summary: 'Packets heard, with copies',
    query: heardQuery,
    answer: pageOf(packetSummary),
  }),
  packet: route({
    method: 'get',
    path: '/packets/:id',
    summary: 'A packet field by field',
    params: byNumber,
    answer: packetDetail,
  }),
  failures: route({
    method: 'get',
    path: '/failures',
    summary: 'What was not understood',
    query: failureQuery,
    answer: pageOf(failureView),
  }),
  stations: route({
    method: 'get',
    path: '/stations',
    summary: 'Stations and objects heard, or what changed',
    query: stationsQuery,
    answer: z.array(stationView),
  }),
  station: route({
    method: 'get',
    path: '/stations/:call',
    summary: 'A station with trail, links and readings',
    params: byCall,
    answer: stationDetail,
  }),
  changeStation: route({
    method: 'patch',
    path: '/stations/:call',
    summary: 'Mute it or take a note',
    params: byCall,
    body: stationChange,
    answer: stationDetail,
  }),
  trails: route({
    method: 'get',
    path: '/trails',
    summary: 'Trails of all that moved',
    query: trailsQuery,
    answer: z.array(trailView),
  }),
  heardLinks: route({
    method: 'get',
    path: '/heard-links',
    summary: 'Who heard whom by radio',
    answer: z.array(heardLink),
  }),
  readings: route({
    method: 'get',
    path: '/readings',
    summary: 'Weather or telemetry',
    query: readingsQuery,
    answer: z.array(readingsView),
  }),
};
