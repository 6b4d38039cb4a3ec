import staticGzip from 'express-static-gzip';
import type { IncomingMessage } from 'node:http';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { StationContext } from '../context';
import { ProblemError } from '../problem-error';
import { isFollowedLink, isFriendly, isOwnHost } from './friendly';
import { limitAtOnce } from './limits';
import { backupRoutes } from './routes/backups';
import { openApiDocument } from './open-api';
import { problemHandler, sendProblem } from './problem';
import { bearerRoutes } from './routes/bearers';
import { emergencyRoutes } from './routes/emergency';
import { equipmentRoutes } from './routes/equipment';
import { exchangeRoutes } from './routes/exchange';
import { exportRoutes } from './routes/exports';
import { heardRoutes } from './routes/heard';
import { importRoutes } from './routes/imports';
import { itemRoutes } from './routes/items';
import { mapRoutes } from './routes/maps';
import { bulletinRoutes } from './routes/bulletins';
import { ownObjectRoutes } from './routes/own-objects';
import { peopleRoutes } from './routes/people';
import { planningRoutes } from './routes/planning';
import { reachRoutes } from './routes/reach';
import { readyRoutes } from './routes/ready';
import { relayRoutes } from './routes/relay';
import { serialRoutes } from './routes/serial';
import { stationRoutes } from './routes/station';
import { serviceRoutes } from './routes/services';
import { trackerRoutes } from './routes/trackers';
import { watchRoutes } from './routes/watches';

/** More requests at once are told to come again: each holds memory and perhaps a connection to the database. */
const MOST_AT_ONCE = 64;
/** Files that come in at the same time. */
const MOST_UPLOADS = 2;
const isUpload = (request: IncomingMessage & { path: string }): boolean =>
  request.method === 'POST' && (request.path === '/imports' || request.path === '/maps');

/** The station over HTTP: the API under /api/v1 and, when a folder is given, the console. */
export function createApp(context: StationContext, webFolder: string | null): Express {
  const app = express();
  app.disable('x-powered-by');
  // No answer is asked for again by its digest; to reckon it of thousands of stations takes time.
  app.disable('etag');
  app.use((request, response, next) => {
    if (isFriendly(request)) return next();
    if (!request.path.startsWith('/api/') && isOwnHost(request) && isFollowedLink(request)) return next();
    sendProblem(
      response,
      new ProblemError(
        403,
        'foreign',
        'Not from here',
        'This station answers only pages and programs on this machine.',
      ),
    );
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          // The style engine of the interface writes its rules into the page.
          styleSrc: ["'self'", "'unsafe-inline'"],
          // Our own addresses alone; that the host is ours was asked above.
          connectSrc: ["'self'", (request) => `ws://${(request as IncomingMessage).headers.host ?? ''}`],
          frameAncestors: ["'none'"],
          formAction: ["'self'"],
          baseUri: ["'none'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          workerSrc: ["'self'", 'blob:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );

  const api = express.Router();
  api.use(limitAtOnce(MOST_AT_ONCE, (request) => request.path !== '/health'));
  api.use(limitAtOnce(MOST_UPLOADS, isUpload));
  api.use(stationRoutes(context));
  // Before the items: `/items/:id/message.eml` and `/items/:id/relays` are longer than `/items/:id`.
  api.use(exchangeRoutes(context));
  api.use(peopleRoutes(context));
  api.use(relayRoutes(context));
  api.use(equipmentRoutes(context));
  api.use(readyRoutes(context));
  api.use(emergencyRoutes(context));
  api.use(ownObjectRoutes(context));
  api.use(bulletinRoutes(context));
  api.use(trackerRoutes(context));
  api.use(serviceRoutes(context));
  api.use(serialRoutes(context));
  api.use(itemRoutes(context));
  api.use(heardRoutes(context));
  api.use(bearerRoutes(context));
  api.use(importRoutes(context));
  api.use(exportRoutes(context));
  api.use(watchRoutes(context));
  api.use(mapRoutes(context));
  api.use(planningRoutes(context));
  api.use(reachRoutes(context));
  api.use(backupRoutes(context));
  api.get('/openapi.json', (_request, response) => {
    response.json(openApiDocument());
  });
  api.use((request) => {
    throw new ProblemError(
      404,
      'no-such-resource',
      'No such resource',
      `There is no ${request.method} ${request.originalUrl}.`,
    );
  });
  app.use('/api/v1', api);

  if (webFolder !== null) {
    // Compressed when it was built, better than could be done while somebody waits.
    app.use(
      staticGzip(webFolder, {
        enableBrotli: true,
        orderPreference: ['br', 'gz'],
        index: 'index.html',
        serveStatic: { setHeaders: cacheForever },
      }),
    );
    app.get('/{*path}', (_request, response) => {
      response.sendFile('index.html', { root: webFolder });
    });
  }
  app.use(problemHandler(context.log));
  return app;
}

/** Built files carry a digest in their name and never change. */
function cacheForever(response: { setHeader(name: string, value: string): unknown }, path: string): void {
  const digest = /\/_expo\/|-[0-9a-f]{8,}\.|\.[0-9a-f]{32}\./.test(path);
  response.setHeader('Cache-Control', digest ? 'public, max-age=31536000, immutable' : 'no-cache');
}
