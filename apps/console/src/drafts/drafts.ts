import { useMemo } from 'react';
import { create } from 'zustand';
import { blankDraft, changed, viewOf, type Draft, type DraftChange, type DraftView } from './draft';
import { draftEvent, dropDraft, keepDraft, keptDrafts } from './kept';

/** Whom something is written to, and why. */
export interface Occasion {
  readonly addressee: string;
  readonly way: string;
  /** The arrived item that it answers; null when it is written for itself. */
  readonly answers: string | null;
  readonly subject?: string;
}

interface DraftsStore {
  readonly drafts: Readonly<Record<string, Draft>>;
  /** The one that this tab writes. */
  readonly open: string;
  /** Whether this device has room to keep what is written. */
  readonly kept: boolean;
  /** What was thrown away last; it can be put back. */
  readonly discarded: Draft | null;
  /** Former states of what this tab writes, the last one last. */
  readonly past: readonly Draft[];
  /** Changes what this tab writes, or the draft that is named, should it still be there. */
  readonly change: (change: DraftChange, id?: string) => void;
  /** Back to before the last change. */
  readonly undo: () => void;
  /** The draft for this occasion, which may have been begun already: nothing that was written for somebody else is touched. */
  readonly writeTo: (occasion: Occasion) => string;
  readonly startAnew: () => string;
  readonly show: (id: string) => void;
  readonly discard: (id: string) => void;
  readonly putBack: () => void;
  /** As what it goes to the station; null when that is over. */
  readonly tried: (id: string, tried: Draft['tried']) => void;
  /** It was sent: it is no draft any more, with all that belonged to it. */
  readonly sent: (id: string) => void;
}

/** Letters of one word or so are taken back together. */
const TOGETHER_MS = 1500;
const MOST_PAST = 50;

const suits = (draft: Draft, { addressee, way, answers }: Occasion): boolean =>
  answers === null
    ? draft.occasion === null && draft.way === way && (draft.to[way] ?? '').toUpperCase() === addressee.toUpperCase()
    : draft.occasion?.item === answers;

const without = (drafts: DraftsStore['drafts'], id: string): DraftsStore['drafts'] =>
  Object.fromEntries(Object.entries(drafts).filter(([one]) => one !== id));

const byId = (drafts: readonly Draft[]) => Object.fromEntries(drafts.map((draft) => [draft.id, draft]));

/** All that is being written on this device. Each draft is kept by itself, and other tabs follow. */
export const useDrafts = create<DraftsStore>()((set, get) => {
  const first = blankDraft(crypto.randomUUID(), Date.now());
  const put = (draft: Draft, more: Partial<DraftsStore> = {}) =>
    set(({ drafts }) => ({ drafts: { ...drafts, [draft.id]: draft }, kept: keepDraft(draft), ...more }));
  const startAnew = () => {
    // Kept from its first letter on.
    const draft = blankDraft(crypto.randomUUID(), Date.now());
    set(({ drafts }) => ({ drafts: { ...drafts, [draft.id]: draft }, open: draft.id, past: [] }));
    return draft.id;
  };
  const forget = (id: string) => {
    dropDraft(id);
    // There is always one that is open.
    if (get().open === id) startAnew();
    set(({ drafts }) => ({ drafts: without(drafts, id) }));
  };
  return {
    drafts: { ...byId(keptDrafts(Date.now())), [first.id]: first },
    open: first.id,
    kept: true,
    discarded: null,
    past: [],
    change(change, id = get().open) {
      const before = get().drafts[id];
      if (!before) return;
      if (id !== get().open) return put(changed(before, change, Date.now()));
      const { past } = get();
      const sameField = Object.keys(change).every((field) => field === 'body' || field === 'addressee');
      const together = sameField && past.length > 0 && Date.now() - before.changedAtMs < TOGETHER_MS;
      put(changed(before, change, Date.now()), { past: together ? past : [...past, before].slice(-MOST_PAST) });
    },
    undo() {
      const { past } = get();
      const before = past.at(-1);
      if (before) put({ ...before, tried: null, changedAtMs: Date.now() }, { past: past.slice(0, -1) });
    },
    writeTo(occasion) {
      const found = Object.values(get().drafts).find((draft) => suits(draft, occasion));
      if (found) {
        get().show(found.id);
        return found.id;
      }
      const { addressee, way, answers, subject = '' } = occasion;
      const draft = {
        ...blankDraft(crypto.randomUUID(), Date.now()),
        way,
        to: { [way]: addressee },
        subject,
        occasion: answers === null ? null : { item: answers, way },
      };
      put(draft, { open: draft.id, past: [] });
      return draft.id;
    },
    startAnew,
    show: (id) => {
      if (get().open !== id && get().drafts[id]) set({ open: id, past: [] });
    },
    discard(id) {
      const draft = get().drafts[id];
      if (!draft) return;
      forget(id);
      set({ discarded: draft });
    },
    putBack() {
      const draft = get().discarded;
      if (draft) put(draft, { discarded: null, open: draft.id, past: [] });
    },
    tried(id, tried) {
      const draft = get().drafts[id];
      if (draft) put({ ...draft, tried });
    },
    sent: forget,
  };
});

if (typeof addEventListener === 'function')
  addEventListener('storage', (event: StorageEvent) => {
    const told = draftEvent(event);
    if (!told) return;
    const { drafts, open, startAnew } = useDrafts.getState();
    if (told.draft) return useDrafts.setState({ drafts: { ...drafts, [told.id]: told.draft } });
    // Sent or thrown away in another tab: here something else is begun, so that it cannot go out twice.
    if (open === told.id) startAnew();
    useDrafts.setState((store) => ({ drafts: without(store.drafts, told.id) }));
  });

/** What this tab writes, as the part of Write sees it. */
export function useDraft(): DraftView & Pick<DraftsStore, 'change'> {
  const draft = useDrafts(({ drafts, open }) => drafts[open]!);
  const change = useDrafts((store) => store.change);
  return useMemo(() => ({ ...viewOf(draft), change }), [draft, change]);
}
