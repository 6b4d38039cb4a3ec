import { View } from 'react-native';
import { Row, Stack } from '../../../ui/layout';
import { Measured } from '../../../ui/measured';
import { TakeAlong } from '../../../ui/take-along';
import { Body, Mono } from '../../../ui/text';
import { linesOf, type PlanColumn } from './plan-lines';

interface PlanTableProps {
  /** What the figures are. */
  intro: string;
  /** What the lines are about. */
  who: string;
  /** What is counted above the lines of everybody. */
  counts: readonly string[];
  columns: readonly PlanColumn[];
}

/** Narrower than this a column has a letter for its name. */
const NAMED_PX = 110;
const FIRST_PX = 128;

/** Several plans in one table: whom each of them reaches, and how well. */
export function PlanTable({ intro, who, counts, columns }: PlanTableProps) {
  const lines = linesOf(counts, columns);
  const letters = columns.map((_, n) => String.fromCharCode(65 + n));
  const text = [['', ...columns.map(({ title }) => title)], ...lines.map(({ title, cells }) => [title, ...cells])]
    .map((line) => line.join('\t'))
    .join('\n');
  return (
    <View>
      <Body soft below={8}>
        {intro}
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
                  first={who}
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
