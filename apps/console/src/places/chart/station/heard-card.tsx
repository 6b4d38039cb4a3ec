import type { StationDetail } from '@tombolo/contract';
import { counted, distanceInWords } from '@tombolo/core';
import { useDistanceUnit, useTimeWords } from '../../../live/preferences';
import { Instant } from '../../../ui/clock';
import { Row, Stack } from '../../../ui/layout';
import { PathStatements } from '../../packet/path-statements';
import { TermHelp } from '../../../ui/terms';
import { Body, Heading, Mono } from '../../../ui/text';

/** How it was heard, in words: what the path proves, and what one may only suppose. */
export function HeardCard({ station }: { station: StationDetail }) {
  const unit = useDistanceUnit();
  const timeWords = useTimeWords();
  return (
    <Stack above={16}>
      <Heading level={2}>How it was heard</Heading>
      <Row justify="between" gap={8} wrap>
        <Body bold>{station.words}</Body>
        <Instant iso={station.lastAt} seconds />
      </Row>
      <PathStatements statements={station.statements} label="What the path of its last packet says" />
      {station.line !== null ? (
        <Mono soft numberOfLines={3} size={14} line={20} above={4}>
          {station.line}
        </Mono>
      ) : null}
      <Body soft above={4}>
        {`${counted(station.packets, 'packet')} in all, first heard ${timeWords(station.firstAt)}`}
      </Body>
      {station.links.length > 0 ? (
        <Stack role="list" aria-label="Links by radio" above={8}>
          {station.links.slice(0, 8).map((link) => (
            <Stack role="listitem" key={`${link.from}>${link.by}`} padY={4} ruled>
              <Body>
                {link.from === station.call
                  ? `heard by ${link.byName ?? link.by}`
                  : `hears ${link.fromName ?? link.from}`}
                {`, ${counted(link.count, 'time')}${link.certainCount === 0 ? ', inferred' : ''}${link.bestKm === null ? '' : `, at up to ${distanceInWords(link.bestKm, unit)}`}`}
              </Body>
            </Stack>
          ))}
        </Stack>
      ) : null}
      <TermHelp term="path" />
    </Stack>
  );
}
