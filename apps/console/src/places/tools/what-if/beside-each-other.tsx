import type { NetView } from '@tombolo/contract';
import type { Position } from '@tombolo/core';
import { useMemo } from 'react';
import { useWork } from '../../../live/work';
import { Stack } from '../../../ui/layout';
import { Notice, Trouble } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { useGround } from '../reach/at-station';
import { areaOfNet } from './area-of-net';
import { besideOf, useKeptPlans, type KeptPlan } from './kept-plans';
import { netWords } from './net-words';
import { planOf } from './plan';
import { PlanTable } from './plan-table';
import type { WhatIfAsked, WhatIfTold } from './reckoned';
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
  const columns = useMemo(() => columnsOf(plan, chosen, kept), [plan, chosen, kept]);
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
  return (
    <Stack above={24}>
      <Heading level={2}>Beside each other</Heading>
      {chosen
        .filter((name) => kept.every((one) => one.name !== name))
        .map((name) => (
          <Body key={name}>{`“${name}” is not kept on this device, so it does not stand beside the others.`}</Body>
        ))}
      {ground.isError ? <Trouble error={ground.error} retry={() => void ground.refetch()} /> : null}
      {fault ? <Notice title="It cannot be reckoned">{fault}</Notice> : null}
      {columns.length > 0 && !fault ? (
        <PlanTable
          columns={columns.map(({ title }, n) => ({ title, outcome: told?.outcome.beside[n] ?? null }))}
          nameOf={nameOf}
          station={netWords(net).station}
        />
      ) : null}
    </Stack>
  );
}

/** The net as it is, what is thought now where that is not kept among them, and the plans that were put beside each other. */
function columnsOf(text: string, names: readonly string[], kept: readonly KeptPlan[]) {
  const chosen = names.flatMap((name) => kept.filter((one) => one.name === name));
  if (chosen.length === 0) return [];
  const now = text === '' || chosen.some((one) => one.plan === text) ? [] : [{ name: 'Thought now', plan: text }];
  return [{ name: 'As it is', plan: '' }, ...now, ...chosen].map(({ name, plan }) => ({
    title: name,
    plan: planOf(plan),
  }));
}
