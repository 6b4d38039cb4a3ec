import { useEffect, useRef } from 'react';

const HEADINGS =
  '[role="main"] h1, main h1, [role="main"] [role="heading"][aria-level="1"], main [role="heading"][aria-level="1"]';
/** A place that loads for longer is announced by what it shows. */
const WITHIN_MS = 3000;

const lastHeading = (): HTMLElement | undefined => [...document.querySelectorAll<HTMLElement>(HEADINGS)].at(-1);

/** Takes the focus to the heading of the page: of several beside each other to the one that was opened last. */
export function focusHeading(): HTMLElement | null {
  const heading = lastHeading();
  if (!heading) return null;
  heading.tabIndex = -1;
  heading.focus({ preventScroll: true });
  return heading;
}

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
