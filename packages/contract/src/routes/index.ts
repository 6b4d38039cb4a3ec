import { bearerRoutes } from './bearers';
import { equipmentRoutes } from './equipment';
import { exportRoutes } from './exports';
import { heardRoutes } from './heard';
import { peopleRoutes } from './people';
import { readyRoutes } from './ready';
import type { Route } from './route';
import { serialRoutes } from './serial';
import { stationRoutes } from './station';
import { trafficRoutes } from './traffic';

export * from './route';

/** Every route of the station. What is not here cannot exist. */
export const routes = {
  ...stationRoutes,
  ...trafficRoutes,
  ...peopleRoutes,
  ...heardRoutes,
  ...bearerRoutes,
  ...exportRoutes,
  ...equipmentRoutes,
  ...readyRoutes,
  ...serialRoutes,
};
export const allRoutes: readonly Route[] = Object.values(routes);
