import { router, type Href } from 'expo-router';
import { useEffect, useRef } from 'react';

/** Two steps of the history within this time can overtake each other in the router. */
const SETTLED_MS = 300;

/** Whoever goes back and forward quickly is shown what the address says in the end: it is gone to when something else is shown. */
export function useTrueAddress(path: string): void {
  const shown = useRef(path);
  useEffect(() => {
    shown.current = path;
  });
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    const onMove = () => {
      clearTimeout(timer);
      timer = setTimeout(() => {
        const { pathname, search } = location;
        if (pathname !== encodeURI(shown.current) && pathname !== shown.current)
          router.replace(`${pathname}${search}` as Href);
      }, SETTLED_MS);
    };
    addEventListener('popstate', onMove);
    return () => {
      clearTimeout(timer);
      removeEventListener('popstate', onMove);
    };
  }, []);
}
