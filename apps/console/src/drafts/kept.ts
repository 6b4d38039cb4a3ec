import { blankDraft, draftSchema, isWritten, type Draft } from './draft';

const PREFIX = 'tombolo-draft:';
/** Under which an earlier version kept the only draft there was. */
const FORMER = 'tombolo-draft';
/** What was begun and never written is forgotten after a day. */
const EMPTY_FOR_MS = 86_400_000;

const read = (text: string | null): Draft | null => {
  if (text === null) return null;
  try {
    const parsed = draftSchema.safeParse(JSON.parse(text));
    return parsed.success ? parsed.data : null;
  } catch {
    return null;
  }
};

/** What another tab did to a draft; null where it was no draft. */
export function draftEvent({
  key,
  newValue,
}: StorageEvent): { readonly id: string; readonly draft: Draft | null } | null {
  return key?.startsWith(PREFIX) ? { id: key.slice(PREFIX.length), draft: read(newValue) } : null;
}

/**
 * All drafts of this device, each under a key of its own: two tabs that write different ones do not meet. None where the browser keeps
 * nothing for pages.
 */
export function keptDrafts(nowMs: number): Draft[] {
  try {
    return readAll(nowMs);
  } catch {
    return [];
  }
}

function readAll(nowMs: number): Draft[] {
  const drafts: Draft[] = [];
  for (let i = 0; i < localStorage.length; i++) {
    const key = localStorage.key(i)!;
    const draft = key.startsWith(PREFIX) ? read(localStorage.getItem(key)) : null;
    if (draft) drafts.push(draft);
  }
  const former = formerDraft(nowMs);
  if (former) drafts.push(former);
  const forgotten = (draft: Draft) => !isWritten(draft) && draft.changedAtMs < nowMs - EMPTY_FOR_MS;
  for (const draft of drafts.filter(forgotten)) dropDraft(draft.id);
  return drafts.filter((draft) => !forgotten(draft));
}

/** What an earlier version was writing, as a draft of its own. */
function formerDraft(nowMs: number): Draft | null {
  const text = localStorage.getItem(FORMER);
  if (text === null) return null;
  localStorage.removeItem(FORMER);
  try {
    const { state } = JSON.parse(text) as { state: Record<string, unknown> };
    const blank = blankDraft(crypto.randomUUID(), nowMs);
    const way = typeof state.way === 'string' ? state.way : blank.way;
    const { addressee, answers } = state;
    const draft = draftSchema.parse({
      ...blank,
      ...state,
      id: blank.id,
      way,
      to: typeof addressee === 'string' ? { [way]: addressee } : {},
      occasion: typeof answers === 'string' ? { item: answers, way } : null,
    });
    if (!isWritten(draft)) return null;
    keepDraft(draft);
    return draft;
  } catch {
    return null;
  }
}

/** False when this device has no room for it: then it lives as long as the tab. */
export function keepDraft(draft: Draft): boolean {
  try {
    localStorage.setItem(PREFIX + draft.id, JSON.stringify(draft));
    return true;
  } catch {
    return false;
  }
}

export function dropDraft(id: string): void {
  try {
    localStorage.removeItem(PREFIX + id);
  } catch {
    // Where nothing is kept, nothing is there to go.
  }
}
