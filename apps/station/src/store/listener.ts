import { Client } from 'pg';
import { createLife } from '../life';

const AGAIN_AFTER_MS = 1000;
const CONNECT_WITHIN_MS = 4000;

export interface Lasting {
  /** The connection while there is one. */
  client(): Client | null;
  stop(): Promise<void>;
}

export interface LastingOptions {
  readonly url: string;
  readonly name: string;
  /** Each time that a new connection stands; it counts as standing when this has returned. */
  readonly onUp: (client: Client) => Promise<void>;
  /** Each time that it is gone. */
  readonly onDown: (reason: string) => void;
}

/**
 * One connection that is made again whenever it breaks – one: the broken one is thrown away first, however many errors it tells
 * of. For what belongs to a connection: listening, and advisory locks.
 */
export function keepConnection({ url, name, onUp, onDown }: LastingOptions): Lasting {
  let current: Client | null = null;
  let timer: NodeJS.Timeout | null = null;
  const life = createLife();
  let opening: Promise<void> = Promise.resolve();

  const open = async () => {
    const client = new Client({
      connectionString: url,
      connectionTimeoutMillis: CONNECT_WITHIN_MS,
      keepAlive: true,
      application_name: `tombolo ${name}`,
    });
    let broken = false;
    const breaks = (reason: string) => {
      if (broken) return;
      broken = true;
      const stood = current === client;
      if (stood) current = null;
      // Ending a broken connection may fail in its own way; there is nothing left to do about it.
      client.end().catch(() => undefined);
      if (life.over) return;
      if (stood) onDown(reason);
      timer = setTimeout(again, AGAIN_AFTER_MS);
    };
    client.on('error', (error) => breaks(error.message));
    client.on('end', () => breaks('the connection ended'));
    try {
      await client.connect();
      if (life.over || broken) return void (await client.end().catch(() => undefined));
      current = client;
      await onUp(client);
    } catch (error) {
      breaks((error as Error).message);
    }
  };
  const again = () => {
    timer = null;
    opening = open();
  };
  life.atEnd(async () => {
    if (timer) clearTimeout(timer);
    await opening;
    const client = current;
    current = null;
    await client?.end().catch(() => undefined);
  });
  again();

  return { client: () => current, stop: life.end };
}
