import { backupRoutes } from './backups';
import { bulletinRoutes } from './bulletins';
import { bearerRoutes } from './bearers';
import { emergencyRoutes } from './emergency';
import { equipmentRoutes } from './equipment';
import { exportRoutes } from './exports';
import { heardRoutes } from './heard';
import { importRoutes } from './imports';
import { mapRoutes } from './maps';
import { ownObjectRoutes } from './own-objects';
import { peopleRoutes } from './people';
import { planningRoutes } from './planning';
import { positionRoutes } from './position';
import { reachRoutes } from './reach';
import { readyRoutes } from './ready';
import type { Route } from './route';
import { relayRoutes } from './relays';
import { serialRoutes } from './serial';
import { serviceRoutes } from './services';
import { sessionRoutes } from './sessions';
import { stationRoutes } from './station';
import { tacticalRoutes } from './tactical';
import { trackerRoutes } from './trackers';
import { trafficRoutes } from './traffic';
import { watchRoutes } from './watches';
import { writingRoutes } from './writing';

export * from './route';

/** Every route of the station. What is not here cannot exist. */
export const routes = {
  ...stationRoutes,
  ...positionRoutes,
  ...backupRoutes,
  ...trafficRoutes,
  ...writingRoutes,
  ...sessionRoutes,
  ...relayRoutes,
  ...peopleRoutes,
  ...tacticalRoutes,
  ...heardRoutes,
  ...importRoutes,
  ...watchRoutes,
  ...mapRoutes,
  ...reachRoutes,
  ...planningRoutes,
  ...bearerRoutes,
  ...exportRoutes,
  ...equipmentRoutes,
  ...readyRoutes,
  ...serialRoutes,
  ...emergencyRoutes,
  ...ownObjectRoutes,
  ...bulletinRoutes,
  ...trackerRoutes,
  ...serviceRoutes,
};
export const allRoutes: readonly Route[] = Object.values(routes);
