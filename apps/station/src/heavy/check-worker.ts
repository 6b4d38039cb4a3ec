import { parentPort, workerData } from 'node:worker_threads';
import { checkGeoJson, checkTileArchive } from './checks';
import type { Task } from './heavy';

/** A check, in a thread of its own: what a stranger's file makes of it stalls nobody else. It loads nothing of the database. */
const task = workerData as Task;
parentPort!.postMessage(
  task.kind === 'geojson' ? checkGeoJson(task.octets) : checkTileArchive(task.octets, task.fileOctets),
);
