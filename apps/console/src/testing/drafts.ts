import { viewOf, type DraftChange, type DraftView } from '../drafts/draft';
import { useDrafts } from '../drafts/drafts';
import { dropDraft } from '../drafts/kept';

/** Begins to write something, with nothing else being written. */
export function writing(change: DraftChange = {}): void {
  const { drafts, startAnew, change: write } = useDrafts.getState();
  for (const id of Object.keys(drafts)) dropDraft(id);
  useDrafts.setState({ drafts: {}, discarded: null, kept: true });
  startAnew();
  if (Object.keys(change).length > 0) write(change);
  useDrafts.setState({ past: [] });
}

/** What is being written now. */
export const written = (): DraftView => {
  const { drafts, open } = useDrafts.getState();
  return viewOf(drafts[open]!);
};
