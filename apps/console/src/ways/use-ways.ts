import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { hasShown, MOST_PLANNED_MIN, type WaysQuestion } from '@tombolo/contract';
import { planningRoutes } from '@tombolo/contract/routes/planning';
import { PATH_SCHOOLS } from '@tombolo/core';
import { useEffect, useMemo, useState } from 'react';
import type { ProposedPath } from '../bearers/under-text';
import { useDraft } from '../drafts/drafts';
import { ask } from '../live/ask';
import { usePeople } from '../live/queries';
import { whomFor } from './chosen';

/** So long after the last letter the ways are asked for anew. */
const SETTLED_MS = 400;
/** What is heard meanwhile changes them. */
const RENEWED_MS = 20_000;

/** A value once it has not changed for a moment. */
function useSettled<T>(value: T, settledMs: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), settledMs);
    return () => clearTimeout(timer);
  }, [value, settledMs]);
  return settled;
}

/** The ways to somebody for what is written; nothing while it is not said whom it is for. */
export function useWays({ to, text, precedence, withinMin }: WaysQuestion) {
  const whom = useSettled(to.trim(), SETTLED_MS);
  const settledText = useSettled(text, SETTLED_MS);
  const body: WaysQuestion = {
    to: whom.slice(0, 254),
    text: settledText.slice(0, 20_000),
    precedence,
    withinMin: withinMin === null ? null : Math.min(withinMin, MOST_PLANNED_MIN),
  };
  return useQuery({
    queryKey: ['ways', body],
    queryFn: () => ask(planningRoutes.ways, { body }),
    enabled: whom !== '',
    refetchInterval: RENEWED_MS,
    // While somebody writes on, the last answer stays; for somebody else it would be wrong.
    placeholderData: (before, query) =>
      (query?.queryKey[1] as WaysQuestion | undefined)?.to === body.to ? keepPreviousData(before) : undefined,
  });
}

/** The ways for what is written now; `to` is whom they are asked for, nobody where none is asked. */
export function useWaysOfDraft() {
  const draft = useDraft();
  const people = usePeople();
  // What is for everybody goes no way to somebody.
  const to = draft.everybody || draft.bulletin ? '' : whomFor(draft, people.data ?? []);
  const ways = useWays({ to, text: draft.body, precedence: draft.precedence, withinMin: draft.withinMin });
  return { to, ways };
}

/** The paths of the ways by packet radio, the best of each address first. */
export function useReckonedPaths(): readonly ProposedPath[] {
  const { ways } = useWaysOfDraft();
  return useMemo(
    () =>
      (ways.data?.ways ?? []).flatMap((planned): ProposedPath[] => {
        const { way, to } = planned.send;
        if (way.by !== 'packets') return [];
        const school = PATH_SCHOOLS.find(({ path }) => path.join() === way.path.join());
        const shown = hasShown(planned);
        return school
          ? [
              {
                to,
                school: school.id,
                reason: planned.sentences[0],
                arrives: planned.arrives.chance,
                shown,
                times: way.times ?? null,
              },
            ]
          : [];
      }),
    [ways.data],
  );
}
