import type { NetView } from '@tombolo/contract';
import type { Position } from '@tombolo/core';
import { useMemo } from 'react';
import { useWork } from '../../../live/work';
import { Notice, Trouble } from '../../../ui/page';
import { useGround } from '../reach/at-station';
import { areaOfNet } from './area-of-net';
import { Beside } from './beside';
import { columnsOf } from './columns-of';
import { besideOf, useKeptPlans } from './kept-plans';
import { netWords } from './net-words';
import { planOf } from './plan';
import type { PlanTold } from './plan-lines';
import { PlanTable } from './plan-table';
import type { PlanOutcome, WhatIfAsked, WhatIfTold } from './reckoned';
import { whatIfWorker } from './what-if-worker';

interface BesideEachOtherProps {
  net: NetView;
  here: Position | null;
  /** What is thought now, as it stands in the address. */
  plan: string;
  /** Which plans were put beside each other, as they stand in the address. */
  names: string;
  nameOf: (call: string) => string;
}

/** Kept plans in one table. They are reckoned apart from what is thought now, which stays as it is meanwhile. */
export function BesideEachOther({ net, here, plan, names, nameOf }: BesideEachOtherProps) {
  const all = useKeptPlans(({ plans }) => plans);
  const kept = useMemo(() => all.filter(({ mesh }) => mesh === (net.bearerId ?? '')), [all, net.bearerId]);
  const chosen = useMemo(() => besideOf(names), [names]);
  const columns = useMemo(
    () => columnsOf(plan, chosen, kept).map(({ title, plan: text }) => ({ title, plan: planOf(text) })),
    [plan, chosen, kept],
  );
  const area = useMemo(
    () =>
      columns.length === 0
        ? null
        : areaOfNet(
            net,
            here,
            columns.flatMap((column) => column.plan),
          ),
    [net, here, columns],
  );
  const ground = useGround(area);
  const asked = useMemo(
    (): WhatIfAsked | null =>
      columns.length === 0 || (area !== null && !ground.data && !ground.isError)
        ? null
        : {
            net,
            ground: area && ground.data ? { area, heights: ground.data.heights } : null,
            changes: [],
            more: 0,
            beside: columns.map((column) => column.plan),
          },
    [net, area, ground.data, ground.isError, columns],
  );
  const { told, fault } = useWork<WhatIfAsked, WhatIfTold>(whatIfWorker, asked);
  if (chosen.length === 0) return null;
  const { station } = netWords(net);
  return (
    <Beside chosen={chosen} kept={kept}>
      {ground.isError ? <Trouble error={ground.error} retry={() => void ground.refetch()} /> : null}
      {fault ? <Notice title="It cannot be reckoned">{fault}</Notice> : null}
      {columns.length > 0 && !fault ? (
        <PlanTable
          intro={`Of 100 transmissions of yours so many would be heard there, and where the plans differ most stands first; the first two lines count ${station}s.`}
          who={station.replace(/^./, (c) => c.toUpperCase())}
          counts={['Hear more than half', 'Hang on one alone']}
          columns={columns.map(({ title }, n) => {
            const outcome = told?.outcome.beside[n];
            return { title, told: outcome ? toldOf(outcome, nameOf) : null };
          })}
        />
      ) : null}
    </Beside>
  );
}

const toldOf = ({ rows, hanging }: PlanOutcome, nameOf: (call: string) => string): PlanTold => ({
  counts: [rows.filter(({ after }) => after >= 0.5).length, new Set(hanging.flatMap(({ cutOff }) => cutOff)).size],
  rows: rows.map(({ call, after, verdict }) => ({
    id: call,
    title: nameOf(call),
    chance: after,
    cutOff: verdict === 'cut off',
  })),
});
