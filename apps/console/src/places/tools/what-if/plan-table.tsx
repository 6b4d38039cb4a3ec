import { View } from 'react-native';
import { Row, Stack } from '../../../ui/layout';
import { Measured } from '../../../ui/measured';
import { TakeAlong } from '../../../ui/take-along';
import { Body, Mono } from '../../../ui/text';
import { percent } from './percent';
import type { PlanOutcome } from './reckoned';

interface Beside {
  readonly title: string;
  /** Null until it is reckoned. */
  readonly outcome: PlanOutcome | null;
}

interface PlanTableProps {
  columns: readonly Beside[];
  nameOf: (call: string) => string;
  /** What those of the net are. */
  station: string;
}

interface Line {
  readonly title: string;
  readonly cells: readonly string[];
  /** Which of the cells tell somebody who was reached and is no more. */
  readonly cutOff: readonly boolean[];
}

/** Narrower than this a column has a letter for its name. */
const NAMED_PX = 110;
const FIRST_PX = 128;

/** Several plans in one table: whom each of them reaches, and how well. */
export function PlanTable({ columns, nameOf, station }: PlanTableProps) {
  const lines = linesOf(columns, nameOf);
  const letters = columns.map((_, n) => String.fromCharCode(65 + n));
  const text = [['', ...columns.map(({ title }) => title)], ...lines.map(({ title, cells }) => [title, ...cells])]
    .map((line) => line.join('\t'))
    .join('\n');
  return (
    <View>
      <Body soft below={8}>
        {`Of 100 transmissions of yours so many would be heard there, and where the plans differ most stands first; the first two lines count ${station}s.`}
      </Body>
      <Measured initial={FIRST_PX + 1}>
        {(width) => {
          const named = (width - FIRST_PX) / columns.length >= NAMED_PX;
          return (
            <>
              {named
                ? null
                : columns.map(({ title }, n) => (
                    <Body key={letters[n]}>
                      <Mono bold>{letters[n]}</Mono>
                      {`: ${title}`}
                    </Body>
                  ))}
              <Stack role="table" aria-label="Plans beside each other" above={8}>
                <Line
                  first={station.replace(/^./, (c) => c.toUpperCase())}
                  cells={named ? columns.map(({ title }) => title) : letters}
                  heads={columns.map(({ title }) => title)}
                />
                {lines.map((line) => (
                  <Line key={line.title} first={line.title} cells={line.cells} cutOff={line.cutOff} />
                ))}
              </Stack>
            </>
          );
        }}
      </Measured>
      <Stack above={12}>
        <TakeAlong text={text} about="the plans beside each other" print />
      </Stack>
    </View>
  );
}

interface LineProps {
  first: string;
  cells: readonly string[];
  cutOff?: readonly boolean[];
  /** Of the first row: what is spoken for each cell, where that is more than it shows. */
  heads?: readonly string[];
}

function Line({ first, cells, cutOff, heads }: LineProps) {
  return (
    <Row role="row" padY={6} ruled>
      <Stack role={heads ? 'columnheader' : 'rowheader'} width={FIRST_PX} padRight={8}>
        <Body bold>{first}</Body>
      </Stack>
      {cells.map((cell, n) => (
        <Stack key={n} role={heads ? 'columnheader' : 'cell'} aria-label={heads?.[n]} fill align="end" padLeft={8}>
          {heads ? (
            <Body bold right>
              {cell}
            </Body>
          ) : (
            <Mono tone={cutOff?.[n] ? 'alarm' : 'ink'}>{cell}</Mono>
          )}
        </Stack>
      ))}
    </Row>
  );
}

/** What the table says, line by line: how many, then everybody, the greatest difference first. */
export function linesOf(columns: readonly Beside[], nameOf: (call: string) => string): Line[] {
  const outcomes = columns.map(({ outcome }) => outcome);
  const known = outcomes.flatMap((outcome) => (outcome ? [outcome] : []));
  const count = (of: (outcome: PlanOutcome) => number) =>
    outcomes.map((outcome) => (outcome ? String(of(outcome)) : '…'));
  const nobody = outcomes.map(() => false);
  const calls = [...new Set(known.flatMap(({ rows }) => rows.map(({ call }) => call)))];
  const stations = calls.map((call) => {
    const rows = outcomes.map((outcome) => outcome?.rows.find((row) => row.call === call));
    const chances = rows.flatMap((row) => (row ? [row.after] : []));
    return {
      call,
      spread: Math.max(...chances) - Math.min(...chances),
      line: {
        title: nameOf(call),
        cells: rows.map((row) => (row ? percent(row.after) : '…')),
        cutOff: rows.map((row) => row?.verdict === 'cut off'),
      },
    };
  });
  stations.sort((a, b) => b.spread - a.spread || (a.call < b.call ? -1 : 1));
  return [
    {
      title: 'Hear more than half',
      cells: count(({ rows }) => rows.filter(({ after }) => after >= 0.5).length),
      cutOff: nobody,
    },
    {
      title: 'Hang on one alone',
      cells: count(({ hanging }) => new Set(hanging.flatMap(({ cutOff }) => cutOff)).size),
      cutOff: nobody,
    },
    ...stations.map(({ line }) => line),
  ];
}
