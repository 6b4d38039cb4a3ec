import { writeFileSync } from 'node:fs';
import { z } from 'zod';
import { demoBearers, demoSettings, people, services, stations } from '@tombolo/scenario';
import { runDistrict, speed } from './run-district';

/** The simulated district as a process of its own. */
const environment = z.object({
  TOMBOLO_SEED: z.string().min(1).default('hollin-sound'),
  TOMBOLO_SPEED: z.coerce.number().pipe(speed).default(1),
  /** Share of the clinic's acknowledgements that get lost, 0–1. */
  TOMBOLO_LOST_ACKNOWLEDGEMENTS: z.coerce.number().min(0).max(1).optional(),
  /** When the lifeboat’s drill begins, minutes after the start; `none` for never. */
  TOMBOLO_DRILL_MIN: z.union([z.literal('none').transform(() => null), z.coerce.number().min(0)]).optional(),
  TOMBOLO_HISTORY_FILE: z.string().min(1).optional(),
  TOMBOLO_KISS_PORT: z.coerce.number().int().default(0),
  TOMBOLO_FEED_PORT: z.coerce.number().int().default(0),
  TOMBOLO_CONTROL_PORT: z.coerce.number().int().default(0),
  TOMBOLO_MESH_PORT: z.coerce.number().int().default(0),
});

const STOP_WITHIN_MS = 5000;

async function main(): Promise<void> {
  const settings = environment.parse(process.env);
  const district = await runDistrict({
    seed: settings.TOMBOLO_SEED,
    speed: settings.TOMBOLO_SPEED,
    ...(settings.TOMBOLO_LOST_ACKNOWLEDGEMENTS !== undefined && {
      correspondents: { [stations.clinic.call]: { lostAcknowledgements: settings.TOMBOLO_LOST_ACKNOWLEDGEMENTS } },
    }),
    drillAtMin: settings.TOMBOLO_DRILL_MIN,
    ports: {
      kiss: settings.TOMBOLO_KISS_PORT,
      feed: settings.TOMBOLO_FEED_PORT,
      control: settings.TOMBOLO_CONTROL_PORT,
      mesh: settings.TOMBOLO_MESH_PORT,
    },
  });
  if (settings.TOMBOLO_HISTORY_FILE) writeFileSync(settings.TOMBOLO_HISTORY_FILE, district.history, { mode: 0o600 });
  // The start command reads from this line where everything is, and who operates the demo.
  console.log(
    `ready ${JSON.stringify({ ports: district.ports, operator: { ...demoSettings, trackerFeed: { url: `http://127.0.0.1:${district.ports.control}/trackers.geojson` } }, people, services, links: demoBearers(district.ports) })}`,
  );
  const stop = () => {
    setTimeout(() => process.exit(1), STOP_WITHIN_MS).unref();
    void district.stop().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  for (const signal of ['SIGTERM', 'SIGINT', 'SIGHUP'] as const) process.on(signal, stop);
  // Whoever started this holds the other end: when that is gone, there is nobody left to stop it.
  if (process.env.TOMBOLO_STDIN !== undefined) process.stdin.on('end', stop).on('error', stop).resume();
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);
}

void main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
