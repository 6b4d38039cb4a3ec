/** The address of the program of a page: its name changes with what is in it. */
const programIn = (page: string): string | null => /\/_expo\/static\/js\/web\/[\w.-]+\.js/.exec(page)?.[0] ?? null;

const WITHIN_MS = 10_000;

/** Whether the station serves another version of this page than the one that is open. */
export async function isOutdated(): Promise<boolean> {
  const open = [...document.scripts].map(({ src }) => programIn(src)).find((found) => found !== null) ?? null;
  if (open === null) return false;
  const bound = new AbortController();
  const late = setTimeout(() => bound.abort(), WITHIN_MS);
  try {
    const answer = await fetch('/', { cache: 'no-store', signal: bound.signal });
    const served = answer.ok ? programIn(await answer.text()) : null;
    return served !== null && served !== open;
  } catch {
    // Without the station nobody knows, and loading the page again would leave nothing at all.
    return false;
  } finally {
    clearTimeout(late);
  }
}

const RELOADED = 'tombolo-reloaded';
const NOT_AGAIN_WITHIN_MS = 60_000;

/** Loads the page again, unless it just did: a fault that stays must not turn in a circle. */
export function reloadOnce(nowMs: number, reload: () => void = () => location.reload()): boolean {
  if (nowMs - Number(sessionStorage.getItem(RELOADED) ?? 0) < NOT_AGAIN_WITHIN_MS) return false;
  sessionStorage.setItem(RELOADED, String(nowMs));
  reload();
  return true;
}
