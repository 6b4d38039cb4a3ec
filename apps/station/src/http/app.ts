import compression from 'compression';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { StationContext } from '../context';
import { ProblemError } from '../problem-error';
import { isFriendly } from './friendly';
import { openApiDocument } from './open-api';
import { problemHandler, sendProblem } from './problem';
import { bearerRoutes } from './routes/bearers';
import { exchangeRoutes } from './routes/exchange';
import { exportRoutes } from './routes/exports';
import { heardRoutes } from './routes/heard';
import { importRoutes } from './routes/imports';
import { itemRoutes } from './routes/items';
import { mapRoutes } from './routes/maps';
import { relayRoutes } from './routes/relay';
import { stationRoutes } from './routes/station';
import { watchRoutes } from './routes/watches';

/** The station over HTTP: the API under /api/v1 and, when a folder is given, the console. */
export function createApp(context: StationContext, webFolder: string | null): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((request, response, next) => {
    if (isFriendly(request)) return next();
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
          connectSrc: ["'self'", 'ws:'],
          imgSrc: ["'self'", 'data:', 'blob:'],
          workerSrc: ["'self'", 'blob:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  // Quickly rather than small: most consoles sit on the same machine, and answers may hold thousands of stations.
  app.use(compression({ level: 1 }));

  const api = express.Router();
  api.use(stationRoutes(context));
  // Before the items: `/items/:id/message.eml` and `/items/:id/relays` are longer than `/items/:id`.
  api.use(exchangeRoutes(context));
  api.use(relayRoutes(context));
  api.use(itemRoutes(context));
  api.use(heardRoutes(context));
  api.use(bearerRoutes(context));
  api.use(importRoutes(context));
  api.use(exportRoutes(context));
  api.use(watchRoutes(context));
  api.use(mapRoutes(context));
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
    app.use(express.static(webFolder, { index: 'index.html', setHeaders: cacheForever }));
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
