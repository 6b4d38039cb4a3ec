import { measuredView } from '../reach';
import { ofBearer } from '../parameters';
import { everybodyQuestion, everybodyView } from '../everybody';
import { audienceView, netView, predictionsView, waysQuestion, waysView } from '../planning';
import { route } from './route';

/** Which way will most likely arrive, and how honest that was. */
export const planningRoutes = {
  ways: route({
    method: 'post',
    path: '/ways',
    summary:
      'The ways to somebody of which none is beaten in everything, each with its chance and what that rests on; nothing is sent',
    body: waysQuestion,
    answer: waysView,
  }),
  everybody: route({
    method: 'get',
    path: '/ways/everybody',
    summary:
      'The surest way to each of the list of people with some things thought off, and what they rely on; nothing is sent and nothing is changed',
    query: everybodyQuestion,
    answer: everybodyView,
  }),
  predictions: route({
    method: 'get',
    path: '/predictions',
    summary: 'What was predicted of what was sent, against what came of it',
    answer: predictionsView,
  }),
  net: route({
    method: 'get',
    path: '/net',
    summary:
      'Who hears whom directly, and how surely, seen from this station: by packet radio, or on the mesh of a bearer that is named',
    query: ofBearer.partial(),
    answer: netView,
  }),
  audience: route({
    method: 'get',
    path: '/audience',
    summary: 'How many would hear one transmission to everybody by a bearer, over each of the usual paths',
    query: ofBearer,
    answer: audienceView,
  }),
  measured: route({
    method: 'get',
    path: '/reach/measured',
    summary: 'Stations that were heard here by packet radio, against what was reckoned of them from the map',
    answer: measuredView,
  }),
};
