import { inUnit, kmOf, type DistanceUnit } from '@tombolo/core';
import { useBearers } from '../../live/queries';
import { CheckRow, Choice } from '../../ui/choice';
import { Body } from '../../ui/text';
import { Chips } from '../../ui/chips';
import { Stack } from '../../ui/layout';
import { useChart } from './chart-store';
import type { StationFilter } from './filter';

const DISTANCES = [5, 10, 25, 100] as const;
const AGES = [
  { id: '10', title: '10 min' },
  { id: '60', title: '1 h' },
  { id: '360', title: '6 h' },
  { id: '', title: 'Any age' },
] as const;

/** The finer filters: distance, age, bearer, and what is hidden. */
export function FilterPanel({ unit }: { unit: DistanceUnit }) {
  const filter = useChart((chart) => chart.filter);
  const change = useChart((chart) => chart.change);
  const bearers = useBearers();
  const set = (part: Partial<StationFilter>) => change({ filter: { ...filter, ...part } });
  return (
    <Stack gap={8} padY={8}>
      <Body bold>Within</Body>
      <Chips
        label="Distance"
        value={filter.withinKm === null ? '' : String(Math.round(inUnit(filter.withinKm, unit)))}
        onChange={(id) => set({ withinKm: id === '' ? null : kmOf(Number(id), unit) })}
        options={[
          ...DISTANCES.map((n) => ({ id: String(n), title: `${n} ${unit}` })),
          { id: '', title: 'Any distance' },
        ]}
      />
      <Body bold>Heard in the last</Body>
      <Chips
        label="Age"
        value={filter.withinMin === null ? '' : String(filter.withinMin)}
        onChange={(id) => set({ withinMin: id === '' ? null : Number(id) })}
        options={AGES}
      />
      <Choice<string>
        label="Bearer"
        value={filter.bearerId}
        onChange={(bearerId) => set({ bearerId })}
        options={[
          { id: '', title: 'Every bearer' },
          ...(bearers.data ?? []).map((bearer) => ({ id: bearer.id, title: bearer.name })),
        ]}
      />
      <CheckRow
        label="Show muted stations, and objects that were taken off"
        checked={filter.hidden}
        onChange={(hidden) => set({ hidden })}
      />
    </Stack>
  );
}
