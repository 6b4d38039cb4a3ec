import { parentPort, workerData } from 'node:worker_threads';
import { checkGeoJson, checkTileArchive } from './checks';
import type { Task } from './heavy';

/** One heavy check, in a thread of its own: what a stranger's file makes of it stalls nobody else. */
const task = workerData as Task;
const answer = task.kind === 'geojson' ? checkGeoJson(task.octets) : checkTileArchive(task.octets, task.fileOctets);
parentPort!.postMessage(answer);
