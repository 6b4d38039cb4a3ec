import type { StationView } from '@tombolo/contract';
import { counted, type DistanceUnit } from '@tombolo/core';
import { useDeferredValue, useState, type ReactElement } from 'react';
import { FlatList } from 'react-native';
import { filling } from '../../ui/filling';
import { Button } from '../../ui/button';
import { Chips } from '../../ui/chips';
import { Field } from '../../ui/field';
import { useKeptScroll } from '../../ui/kept-scroll';
import { Row, Stack } from '../../ui/layout';
import { Empty, Trouble, Waiting } from '../../ui/page';
import { Body } from '../../ui/text';
import { useChart } from './chart-store';
import { countFilters, KIND_FILTERS, NO_FILTER } from './filter';
import { FilterPanel } from './filter-panel';
import { StationRow } from './station-row';

interface StationListProps {
  head: ReactElement;
  rows: readonly StationView[];
  /** How many there are without the filter. */
  total: number;
  loading: boolean;
  error: Error | null;
  retry: () => void;
  unit: DistanceUnit;
  selected: string | null;
  onSelect: (call: string) => void;
}

/** Everything that is on the map, as a list: searched, filtered, by age or by distance. */
export function StationList({ head, rows, total, loading, error, retry, unit, selected, onSelect }: StationListProps) {
  const { filter, order, change } = useChart();
  const [open, setOpen] = useState(false);
  // A flood of packets is drawn in pieces, between what the reader does.
  const drawn = useDeferredValue(rows);
  const kept = useKeptScroll('stations');
  const more = countFilters(filter);
  return (
    <FlatList
      {...kept}
      style={filling}
      contentContainerStyle={{ paddingBottom: 48 }}
      data={drawn}
      keyExtractor={(station) => station.call}
      initialNumToRender={12}
      maxToRenderPerBatch={6}
      windowSize={5}
      ListHeaderComponent={
        <Stack gap={8} padX={16} padTop={12} padBottom={8}>
          {head}
          <Field
            label="Search"
            value={filter.text}
            onChangeText={(text) => change({ filter: { ...filter, text } })}
            hint="Call, comment, or your note"
          />
          <Chips
            label="Kind"
            value={filter.kind}
            onChange={(kind) => change({ filter: { ...filter, kind } })}
            options={KIND_FILTERS}
            line
          />
          <Row wrap gap={8}>
            <Button
              title={open ? 'Fewer' : more > 0 ? `Filters (${more} set)` : 'Filters'}
              icon="filter-outline"
              kind="plain"
              onPress={() => setOpen(!open)}
            />
            <Button
              title={order === 'newest' ? 'Newest' : 'Nearest'}
              about="first"
              icon="sort"
              kind="plain"
              onPress={() => change({ order: order === 'newest' ? 'nearest' : 'newest' })}
            />
          </Row>
          {open ? <FilterPanel unit={unit} /> : null}
          <Body soft role="status">
            {rows.length === total
              ? counted(total, 'station or object', 'stations and objects')
              : `${rows.length} of ${counted(total, 'station or object', 'stations and objects')}`}
          </Body>
          {loading ? <Waiting what="stations" /> : null}
          {error ? <Trouble error={error} retry={retry} /> : null}
        </Stack>
      }
      ListEmptyComponent={
        loading || error ? null : total > 0 ? (
          <Stack pad={16}>
            <Empty
              icon="filter-off-outline"
              title="Nothing passes the filter"
              action={{ title: 'Clear the filter', onPress: () => change({ filter: NO_FILTER }) }}
            >
              The stations are there; the filter hides them.
            </Empty>
          </Stack>
        ) : (
          <Stack pad={16}>
            <Empty
              icon="compass-outline"
              title="No station heard yet"
              action={{ title: 'See the bearers', href: '/bearers' }}
            >
              Stations appear as soon as one packet of theirs is heard. Fixed ones announce about every 30 minutes,
              moving ones every few minutes.
            </Empty>
          </Stack>
        )
      }
      renderItem={({ item }) => (
        <StationRow station={item} unit={unit} selected={item.call === selected} onPress={onSelect} />
      )}
    />
  );
}
