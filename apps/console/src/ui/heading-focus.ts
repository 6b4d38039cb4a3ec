const HEADINGS =
  '[role="main"] h1, main h1, [role="main"] [role="heading"][aria-level="1"], main [role="heading"][aria-level="1"]';

export const lastHeading = (): HTMLElement | undefined => [...document.querySelectorAll<HTMLElement>(HEADINGS)].at(-1);

/** Takes the focus to the heading of the page: of several beside each other to the one that was opened last. */
export function focusHeading(): HTMLElement | null {
  const heading = lastHeading();
  if (!heading) return null;
  heading.tabIndex = -1;
  heading.focus({ preventScroll: true });
  return heading;
}
