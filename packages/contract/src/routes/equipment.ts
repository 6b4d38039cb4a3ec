import { z } from 'zod';
import { equipmentFile, keptPiece, newTick, piece, tick } from '../equipment';
import { byUuid } from '../parameters';
import { sheetHolder } from '../sheet-plan';
import { route } from './route';

/** What the station consists of, and what has to be keyed into it. */
export const equipmentRoutes = {
  equipment: route({
    method: 'get',
    path: '/equipment',
    summary: 'Radios, modems, antennas, nodes, position receivers and cells',
    answer: z.array(keptPiece),
  }),
  equipmentFile: route({
    method: 'get',
    path: '/equipment/file',
    summary: 'All equipment as a file',
    answer: equipmentFile,
  }),
  equipmentSchema: route({
    method: 'get',
    path: '/equipment/schema',
    summary: 'JSON Schema of that file',
    answer: z.record(z.string(), z.unknown()),
  }),
  readEquipment: route({
    method: 'post',
    path: '/equipment/file',
    summary: 'Add the equipment of such a file; a piece of the same identifier is replaced',
    body: equipmentFile,
    bodyLimit: '1mb',
    answer: z.array(keptPiece),
  }),
  keepPiece: route({
    method: 'put',
    path: '/equipment/:id',
    summary: 'Add a piece, or change what is known of it',
    params: byUuid,
    body: piece,
    answer: keptPiece,
  }),
  removePiece: route({
    method: 'delete',
    path: '/equipment/:id',
    summary: 'Remove a piece; others that belonged to it stay',
    params: byUuid,
    answer: null,
  }),
  sheet: route({
    method: 'get',
    path: '/equipment/:id/sheet.pdf',
    summary: 'The set-up sheet of a piece as a document, for us or for somebody with the same',
    params: byUuid,
    query: sheetHolder,
    answer: 'application/pdf',
  }),
  ticks: route({
    method: 'get',
    path: '/equipment/:id/ticks',
    summary: 'What was ticked on the set-up sheets of a piece, in order',
    params: byUuid,
    answer: z.array(tick),
  }),
  tick: route({
    method: 'post',
    path: '/equipment/:id/ticks',
    summary: 'Tick a line of a set-up sheet, or take the tick back',
    params: byUuid,
    body: newTick,
    answer: tick,
    status: 201,
  }),
};
