import { useEffect } from 'react';

const NAME = 'Tombolo';
/** Headings of pages that are shown now, the one that came last at the end: beside a list stands what was opened of it. */
let headings: readonly { readonly words: string }[] = [];

const tell = () => {
  const last = headings.at(-1);
  document.title = last ? `${last.words} – ${NAME}` : NAME;
};

/** The window is called by the heading of the page that it shows; null for what is no such heading. */
export function useTitle(words: string | null): void {
  useEffect(() => {
    if (words === null) return;
    const mine = { words };
    headings = [...headings, mine];
    tell();
    return () => {
      headings = headings.filter((one) => one !== mine);
      tell();
    };
  }, [words]);
}
