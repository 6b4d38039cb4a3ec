import { z } from 'zod';
import { bringUpToDate } from './store/migrate';

/** Brings a database up to date, as its owner; the station itself works in it with fewer rights. */
const environment = z.object({ TOMBOLO_OWNER_URL: z.url() });

async function main(): Promise<void> {
  const settings = environment.parse(process.env);
  await bringUpToDate(settings.TOMBOLO_OWNER_URL);
}

void main().catch((error: unknown) => {
  console.error((error as Error).message);
  process.exit(1);
});
