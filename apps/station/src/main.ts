import { z } from 'zod';
import { startStation } from './station';

/** The station as a process of its own; settings come from the environment. */
const environment = z.object({
  TOMBOLO_DATABASE_URL: z.url(),
  TOMBOLO_PORT: z.coerce.number().int().min(0).max(65_535).default(0),
  TOMBOLO_WEB: z.string().min(1).optional(),
  TOMBOLO_SIMULATION_URL: z.url().optional(),
  /** Makes all that is derived from receptions anew before it starts. */
  TOMBOLO_REBUILD: z.enum(['1']).optional(),
});

async function main(): Promise<void> {
  const settings = environment.safeParse(process.env);
  if (!settings.success) {
    console.error(`The station cannot start: ${z.prettifyError(settings.error)}`);
    process.exit(2);
  }
  const station = await startStation({
    databaseUrl: settings.data.TOMBOLO_DATABASE_URL,
    port: settings.data.TOMBOLO_PORT,
    webFolder: settings.data.TOMBOLO_WEB ?? null,
    simulationUrl: settings.data.TOMBOLO_SIMULATION_URL ?? null,
    version: '0.1.0',
    rebuild: settings.data.TOMBOLO_REBUILD !== undefined,
  });
  // The start command waits for this line.
  console.log(`listening ${station.url}`);
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    void station.stop().then(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
}

void main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
