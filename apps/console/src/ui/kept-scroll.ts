import { useEffect, useRef } from 'react';
import type { NativeScrollEvent, NativeSyntheticEvent } from 'react-native';

/** How far each address was scrolled, px. */
const scrolled = new Map<string, number>();
/** The address that the browser went back or forward to, until it is shown as it was left. */
let returnedTo: string | null = null;
/** What is loaded anew may take so long to be as long as it was. */
const WITHIN_MS = 5000;

const here = () => location.pathname + location.search;

let late: ReturnType<typeof setTimeout>;
if (typeof addEventListener === 'function')
  addEventListener(
    'popstate',
    () => {
      returnedTo = here();
      clearTimeout(late);
      late = setTimeout(() => (returnedTo = null), WITHIN_MS);
    },
    // Before the router shows what is there, whichever of the two was loaded first.
    { capture: true },
  );

interface Scrolls {
  getScrollableNode(): unknown;
}

/** What scrolls is found where it was left, when the browser goes back or forward to it. `part` tells apart what scrolls at one address. */
export function useKeptScroll(part: string) {
  const scrolls = useRef<Scrolls>(null);
  const key = useRef(`${here()} ${part}`);
  useEffect(() => {
    const wanted = scrolled.get(key.current) ?? 0;
    if (returnedTo !== here() || wanted === 0) return;
    const node = scrolls.current?.getScrollableNode() as HTMLElement | null | undefined;
    if (!node) return;
    const until = Date.now() + WITHIN_MS;
    let frame = 0;
    const restore = () => {
      const most = node.scrollHeight - node.clientHeight;
      node.scrollTop = Math.min(wanted, most);
      if (most >= wanted || Date.now() > until) returnedTo = null;
      else frame = requestAnimationFrame(restore);
    };
    // Whoever scrolls meanwhile is left where they are.
    const leave = () => cancelAnimationFrame(frame);
    node.addEventListener('wheel', leave, { once: true, passive: true });
    node.addEventListener('touchmove', leave, { once: true, passive: true });
    restore();
    return () => {
      leave();
      node.removeEventListener('wheel', leave);
      node.removeEventListener('touchmove', leave);
    };
  }, []);
  return {
    ref: scrolls as never,
    scrollEventThrottle: 100,
    onScroll: ({ nativeEvent }: NativeSyntheticEvent<NativeScrollEvent>) => {
      key.current = `${here()} ${part}`;
      scrolled.set(key.current, nativeEvent.contentOffset.y);
    },
  };
}
