import {
  alarm,
  backupView,
  bearerChange,
  bearerView,
  failureQuery,
  failureView,
  health,
  heardFilter,
  heardLink,
  heardQuery,
  holdChange,
  holdView,
  importQuery,
  importView,
  invitationRequest,
  invitationView,
  itemAction,
  itemDetail,
  itemsQuery,
  itemSummary,
  liveEvent,
  mapQuery,
  mapView,
  meshNodeView,
  newBackup,
  newBearer,
  newMail,
  newMeshText,
  newPost,
  newRelay,
  newSession,
  newStandingRule,
  newText,
  newWatch,
  offerView,
  packetDetail,
  packetSummary,
  pageOf,
  placesExportQuery,
  problem,
  readingsQuery,
  readingsView,
  relayProposal,
  ruleChange,
  sessionView,
  settings,
  settingsChange,
  simulation,
  simulationChange,
  standingRule,
  stationChange,
  stationDetail,
  stationsQuery,
  stationView,
  terminalLine,
  trailsQuery,
  trailView,
  watch,
  watchChange,
} from '@tombolo/contract';
import { z } from 'zod';

const ofBearer = z.object({ bearerId: z.string() });

interface Operation {
  readonly summary: string;
  readonly query?: z.ZodType;
  readonly body?: z.ZodType | 'octets';
  readonly result: z.ZodType | string;
  readonly status?: number;
}

/** Every resource with the schemas that its route reads and writes. */
const operations: Record<string, Partial<Record<'get' | 'post' | 'put' | 'patch' | 'delete', Operation>>> = {
  '/health': { get: { summary: 'Whether the station is up', result: health } },
  '/settings': {
    get: { summary: 'Settings', result: settings },
    patch: { summary: 'Change some settings', body: settingsChange, result: settings },
  },
  '/events': {
    get: { summary: 'Events after a number', query: z.object({ after: z.number() }), result: z.array(liveEvent) },
  },
  '/live': {
    get: {
      summary: 'The live feed (WebSocket), resumed with ?after=',
      query: z.object({ after: z.number().optional() }),
      result: liveEvent,
      status: 101,
    },
  },
  '/simulation': {
    get: { summary: 'The simulated district', result: simulation.nullable() },
    put: { summary: 'Change its speed', body: simulationChange, result: simulation },
  },
  '/items': {
    get: { summary: 'Traffic, newest first', query: itemsQuery, result: pageOf(itemSummary) },
    post: { summary: 'Queue a text', body: newText, result: itemDetail, status: 201 },
  },
  '/items/{id}': { get: { summary: 'An item with its legs and evidence', result: itemDetail } },
  '/items/{id}/actions': {
    post: { summary: 'Retry, cancel, release, file or unfile', body: itemAction, result: itemDetail },
  },
  '/items/{id}/relays': {
    get: { summary: 'Ways on for an arrived item', result: z.array(relayProposal) },
    post: { summary: 'Hand an item on', body: newRelay, result: itemDetail, status: 201 },
  },
  '/items/{id}/message.eml': { get: { summary: 'A mail as it is (RFC 5322)', result: 'message/rfc822' } },
  '/attachments/{id}': { get: { summary: 'An attachment', result: 'application/octet-stream' } },
  '/posts': { post: { summary: 'Queue a message for a board', body: newPost, result: itemDetail, status: 201 } },
  '/mails': { post: { summary: 'Queue a mail', body: newMail, result: itemDetail, status: 201 } },
  '/mesh-texts': { post: { summary: 'Queue a text for the mesh', body: newMeshText, result: itemDetail, status: 201 } },
  '/mesh-nodes': { get: { summary: 'Nodes of the mesh', result: z.array(meshNodeView) } },
  '/offers': { get: { summary: 'What lies at a board or gateway', query: ofBearer, result: z.array(offerView) } },
  '/sessions': {
    get: { summary: 'Sessions with a board or gateway', query: ofBearer, result: z.array(sessionView) },
    post: { summary: 'Begin a session', body: newSession, result: sessionView, status: 201 },
  },
  '/sessions/{id}': {
    get: { summary: 'A session', result: sessionView },
    delete: { summary: 'End a session', result: sessionView },
  },
  '/sessions/{id}/lines': { post: { summary: 'Type a line at a terminal', body: terminalLine, result: sessionView } },
  '/rules': {
    get: { summary: 'Standing rules of the relay desk', result: z.array(standingRule) },
    post: { summary: 'Add a rule, turned off', body: newStandingRule, result: standingRule, status: 201 },
  },
  '/rules/{id}': {
    patch: { summary: 'Turn a rule on or off', body: ruleChange, result: standingRule },
    delete: { summary: 'Remove a rule', result: 'nothing', status: 204 },
  },
  '/packets': { get: { summary: 'Packets heard, with copies', query: heardQuery, result: pageOf(packetSummary) } },
  '/packets/{id}': { get: { summary: 'A packet field by field', result: packetDetail } },
  '/failures': { get: { summary: 'What was not understood', query: failureQuery, result: pageOf(failureView) } },
  '/stations': {
    get: { summary: 'Stations and objects heard, or what changed', query: stationsQuery, result: z.array(stationView) },
  },
  '/stations/{call}': {
    get: { summary: 'A station with trail, links and readings', result: stationDetail },
    patch: { summary: 'Mute it or take a note', body: stationChange, result: stationDetail },
  },
  '/trails': { get: { summary: 'Trails of all that moved', query: trailsQuery, result: z.array(trailView) } },
  '/heard-links': { get: { summary: 'Who heard whom by radio', result: z.array(heardLink) } },
  '/readings': { get: { summary: 'Weather or telemetry', query: readingsQuery, result: z.array(readingsView) } },
  '/watches': {
    get: { summary: 'What stations are watched for', result: z.array(watch) },
    post: { summary: 'Watch a quantity of a station', body: newWatch, result: watch, status: 201 },
  },
  '/watches/{id}': {
    patch: { summary: 'Turn a watch on or off', body: watchChange, result: watch },
    delete: { summary: 'Remove a watch', result: 'nothing', status: 204 },
  },
  '/alarms': { get: { summary: 'Alarms, the latest first', result: z.array(alarm) } },
  '/alarms/{id}/seen': { post: { summary: 'Say that an alarm was seen', result: alarm } },
  '/maps': {
    get: { summary: 'Map files of the operator', result: z.array(mapView) },
    post: { summary: 'Add a map file', query: mapQuery, body: 'octets', result: mapView, status: 201 },
  },
  '/maps/{id}': { delete: { summary: 'Remove a map', result: 'nothing', status: 204 } },
  '/maps/{id}/content': { get: { summary: 'The file, also in pieces (Range)', result: 'application/octet-stream' } },
  '/bearers': {
    get: { summary: 'Links', result: z.array(bearerView) },
    post: { summary: 'Add a link', body: newBearer, result: bearerView, status: 201 },
  },
  '/bearers/{id}': {
    patch: { summary: 'Change a link', body: bearerChange, result: bearerView },
    delete: { summary: 'Remove a link', result: 'nothing', status: 204 },
  },
  '/bearers/{id}/invitations': {
    post: {
      summary: 'The invitation to a channel of a mesh: the key leaves the station only so',
      body: invitationRequest,
      result: invitationView,
      status: 201,
    },
  },
  '/hold': {
    get: { summary: 'Whether everything is held, and what the equipment has', result: holdView },
    put: { summary: 'Hold everything that would go out, or let it go on', body: holdChange, result: holdView },
  },
  '/backups': {
    get: { summary: 'Backups made by the button', result: z.array(backupView) },
    post: { summary: 'Make a backup', body: newBackup, result: backupView, status: 202 },
  },
  '/backups/{id}/file': { get: { summary: 'The file of a backup', result: 'application/octet-stream' } },
  '/imports': {
    get: { summary: 'Imports', result: z.array(importView) },
    post: { summary: 'Read a recording', query: importQuery, body: 'octets', result: importView, status: 201 },
  },
  '/imports/{id}': {
    get: { summary: 'An import', result: importView },
    delete: { summary: 'Take an import off the list; what was read stays', result: 'nothing', status: 204 },
  },
  '/exports/heard.pcap': {
    get: { summary: 'What was heard, as a capture file', query: heardFilter, result: 'application/vnd.tcpdump.pcap' },
  },
  '/exports/heard.txt': {
    get: { summary: 'What was heard, as monitor text', query: heardFilter, result: 'text/plain' },
  },
  '/exports/stations.gpx': {
    get: { summary: 'Stations and trails (GPX 1.1)', query: placesExportQuery, result: 'application/gpx+xml' },
  },
  '/exports/stations.kml': {
    get: {
      summary: 'Stations and trails (KML 2.2)',
      query: placesExportQuery,
      result: 'application/vnd.google-earth.kml+xml',
    },
  },
  '/exports/stations.geojson': {
    get: { summary: 'Stations and trails (RFC 7946)', query: placesExportQuery, result: 'application/geo+json' },
  },
  '/exports/readings.csv': { get: { summary: 'Weather or telemetry', query: readingsQuery, result: 'text/csv' } },
  '/exports/mail.mbox': { get: { summary: 'All mail (RFC 4155)', result: 'application/mbox' } },
  '/exports/log.csv': { get: { summary: 'The communications log', result: 'text/csv' } },
};

const schemaOf = (schema: z.ZodType, io: 'input' | 'output') => z.toJSONSchema(schema, { io, unrepresentable: 'any' });

/** OpenAPI 3.1, made from the schemas that the routes use. */
export function openApiDocument(): Record<string, unknown> {
  const paths = Object.fromEntries(
    Object.entries(operations).map(([path, methods]) => [
      path,
      Object.fromEntries(
        Object.entries(methods).map(([method, operation]) => [method, operationObject(path, operation)]),
      ),
    ]),
  );
  return {
    openapi: '3.1.0',
    info: { title: 'Tombolo station', version: '1' },
    servers: [{ url: '/api/v1' }],
    paths,
  };
}

function operationObject(path: string, operation: Operation): Record<string, unknown> {
  const parameters: Record<string, unknown>[] = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  if (operation.query) {
    const { properties = {}, required = [] } = schemaOf(operation.query, 'input');
    for (const [name, schema] of Object.entries(properties))
      parameters.push({ name, in: 'query', required: required.includes(name), schema });
  }
  const status = String(operation.status ?? 200);
  const success =
    typeof operation.result === 'string'
      ? { description: operation.result, ...(status !== '204' && { content: { [operation.result]: {} } }) }
      : { description: 'as asked', content: { 'application/json': { schema: schemaOf(operation.result, 'output') } } };
  return {
    summary: operation.summary,
    ...(parameters.length > 0 && { parameters }),
    ...(operation.body && {
      requestBody: {
        required: true,
        content:
          operation.body === 'octets'
            ? { 'application/octet-stream': {} }
            : { 'application/json': { schema: schemaOf(operation.body, 'input') } },
      },
    }),
    responses: {
      [status]: success,
      default: {
        description: 'a problem (RFC 9457)',
        content: { 'application/problem+json': { schema: schemaOf(problem, 'output') } },
      },
    },
  };
}
