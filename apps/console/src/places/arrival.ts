import { useEffect, useRef } from 'react';
import { focusHeading, lastHeading } from '../ui/heading-focus';

/** A place that loads for longer is announced by what it shows. */
const WITHIN_MS = 3000;

/** Whoever goes to another place is taken to its heading, as a page that loads would do, unless they are typing there already. */
export function useArrival(path: string): void {
  const before = useRef(path);
  useEffect(() => {
    if (before.current === path) return;
    before.current = path;
    const isTyping = () => document.activeElement?.matches('input, textarea, select, [contenteditable]') ?? false;
    if (isTyping()) return;
    let heading = focusHeading();
    // What is loaded brings its heading later; whoever has gone on meanwhile is left where they are.
    const watch = new MutationObserver(() => {
      const gone = document.activeElement === null || document.activeElement === document.body;
      if (!gone && document.activeElement !== heading) return watch.disconnect();
      if (lastHeading() !== heading) heading = focusHeading();
    });
    watch.observe(document.body, { childList: true, subtree: true });
    const late = setTimeout(() => watch.disconnect(), WITHIN_MS);
    return () => {
      clearTimeout(late);
      watch.disconnect();
    };
  }, [path]);
}
