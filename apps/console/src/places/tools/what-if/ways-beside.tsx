import { offOf, type EverybodyView } from '@tombolo/contract';
import { useMemo } from 'react';
import { Button } from '../../../ui/button';
import { Stack } from '../../../ui/layout';
import { Body } from '../../../ui/text';
import { Beside } from './beside';
import { columnsOf } from './columns-of';
import { EVERYBODY, besideOf, useKeptPlans } from './kept-plans';
import type { PlanTold } from './plan-lines';
import { PlanTable } from './plan-table';
import { useEverybody } from './use-everybody';

interface WaysBesideProps {
  /** What is thought off now, as it stands in the address. */
  off: string;
  /** Which plans were put beside each other, as they stand in the address. */
  names: string;
}

/** Kept plans of all ways together in one table: how surely each of them reaches everybody on the list. */
export function WaysBeside({ off, names }: WaysBesideProps) {
  const all = useKeptPlans(({ plans }) => plans);
  const kept = useMemo(() => all.filter(({ mesh }) => mesh === EVERYBODY), [all]);
  const chosen = useMemo(() => besideOf(names), [names]);
  const columns = useMemo(() => columnsOf(off, chosen, kept), [off, chosen, kept]);
  const told = useColumns(columns.map(({ plan }) => plan));
  if (chosen.length === 0) return null;
  const [asItIs] = told;
  const failed = told.filter(({ error }) => error !== null);
  return (
    <Beside chosen={chosen} kept={kept}>
      {failed.length > 0 ? (
        <Stack align="start">
          <Body>The station did not tell of all of them.</Body>
          <Button
            title="Try again"
            about="plans beside each other"
            onPress={() => failed.forEach((one) => one.again())}
          />
        </Stack>
      ) : null}
      {columns.length > 0 ? (
        <PlanTable
          intro="Of 100 texts of 40 characters so many would be with them within a day by the surest way, and where the plans differ most stands first; the first two lines count people."
          who="Whom"
          counts={['Some way to', 'Hang on one thing alone']}
          columns={columns.map(({ title }, n) => ({
            title,
            told: told[n]?.isWhole && told[n].view ? toldOf(told[n].view, asItIs?.view ?? null) : null,
          }))}
        />
      ) : null}
    </Beside>
  );
}

type View = Pick<EverybodyView, 'people' | 'relies'>;

function toldOf({ people, relies }: View, asItIs: View | null): PlanTold {
  const had = new Set(asItIs?.people.flatMap(({ id, surest }) => (surest ? [id] : [])));
  return {
    counts: [
      people.filter(({ surest }) => surest !== null).length,
      new Set(relies.flatMap(({ needed }) => needed)).size,
    ],
    rows: people.map(({ id, name, surest }) => ({
      id,
      title: name,
      chance: surest?.chance ?? 0,
      cutOff: surest === null && had.has(id),
    })),
  };
}

/** One for each column that there may be: as it is, what is thought now, and those that are kept. */
function useColumns(plans: readonly string[]) {
  const of = (n: number) => (plans[n] === undefined ? null : offOf(plans[n]));
  const told = [
    useEverybody(of(0)),
    useEverybody(of(1)),
    useEverybody(of(2)),
    useEverybody(of(3)),
    useEverybody(of(4)),
  ];
  return told.slice(0, plans.length);
}
