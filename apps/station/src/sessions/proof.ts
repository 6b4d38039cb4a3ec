import type { LinkStream } from '@tombolo/link-stream';
import { connectionIdentity } from '../ingest/understand';
import { rowsOf, type Queries } from '../store/database';
import { firstIdAt } from '../store/moments';

/** What is heard is stored at once, or, while the database is away, much later: proof does not wait for that. */
const STORED_WITHIN_MS = 3000;
/** A frame with the same numbers and the same text from longer ago is another one. */
const HEARD_WITHIN_MS = 60_000;

/** The packet on record of the frame that brought the last of what was said; null when it is not stored in time. */
export async function provingPacket(
  queries: Queries,
  stream: LinkStream,
  own: string,
  stored: () => Promise<void>,
  now: () => number,
): Promise<string | null> {
  const frame = stream.lastBrought;
  if (!frame) return null;
  const heardAtMs = now();
  let late: NodeJS.Timeout | undefined;
  await Promise.race([stored(), new Promise<void>((resolve) => (late = setTimeout(resolve, STORED_WITHIN_MS)))]);
  clearTimeout(late);
  const [row] = await rowsOf<{ id: string }>(
    queries,
    'select id from packet where identity = $1 and id >= $2 order by id desc limit 1',
    [connectionIdentity(stream.peer, own, frame), firstIdAt(heardAtMs - HEARD_WITHIN_MS)],
  );
  return row?.id ?? null;
}
