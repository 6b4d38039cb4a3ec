import { differenceOf, type Difference } from '@tombolo/core';
import type { EverybodyView } from '@tombolo/contract';
import { View } from 'react-native';
import { Row, Stack } from '../../../ui/layout';
import { ShareBar } from '../../../ui/share-bar';
import { Body, Heading } from '../../../ui/text';
import { percent } from './percent';

type Asked = EverybodyView['people'][number];
interface Left extends Difference {
  readonly person: Asked;
}

/** Who would still be reached, by what, and how surely. */
export function WhoIsLeft({
  before,
  after,
  changed,
}: {
  before: readonly Asked[];
  after: readonly Asked[];
  changed: boolean;
}) {
  const rows = after
    .map((person): Left => {
      const was = before.find(({ id }) => id === person.id);
      return { ...differenceOf(person.name, was?.surest?.chance ?? 0, person.surest?.chance ?? 0), person };
    })
    .sort((a, b) => a.after - a.before - (b.after - b.before) || a.after - b.after);
  return (
    <View>
      <Heading level={2}>Who is left</Heading>
      <Body bold below={8}>
        {summaryOf(rows, changed)}
      </Body>
      <View role="list" aria-label="Who is left">
        {rows.map((row) => (
          <Stack role="listitem" key={row.person.id} padY={6} ruled>
            <Row wrap justify="between" columnGap={12}>
              <Body bold>{row.call}</Body>
              <Body tone={row.verdict === 'cut off' ? 'alarm' : 'ink'}>
                {changed
                  ? `${percent(row.before)} → ${percent(row.after)} of 100, ${row.verdict}`
                  : row.person.surest
                    ? `${percent(row.after)} of 100`
                    : 'no way'}
              </Body>
            </Row>
            <Body soft>{wayOf(row.person, changed)}</Body>
            <ShareBar share={row.after} before={changed ? row.before : null} />
          </Stack>
        ))}
      </View>
      {changed ? <Body soft>The bar is what would be; the mark across it, what is.</Body> : null}
    </View>
  );
}

function wayOf({ surest, by, why }: Asked, changed: boolean): string {
  if (!surest) return changed ? 'Nothing of what is left leads there.' : (why ?? 'Nothing of yours leads there.');
  const basis = surest.basis === 'map' ? ', a guess' : '';
  const [, ...others] = by;
  return `Surest: ${surest.title}${basis}. ${others.length === 0 ? 'By nothing else.' : `Also by ${others.join(', ')}.`}`;
}

/** What it comes to, in a sentence or a few. */
function summaryOf(rows: readonly Left[], changed: boolean): string {
  const of = (...verdicts: readonly Difference['verdict'][]) =>
    rows.filter(({ verdict }) => verdicts.includes(verdict)).map(({ call }) => call);
  const named = (names: readonly string[], words: string) =>
    names.length === 0 ? [] : [`${words}: ${names.join(', ')}.`];
  const unreached = of('not reached');
  if (!changed)
    return unreached.length === 0
      ? 'A way is known to everybody on your list.'
      : `Without any way now: ${unreached.join(', ')}.`;
  const told = [
    ...named(of('cut off'), 'Left without any way'),
    ...named(of('worse'), 'Worse'),
    ...named(of('better', 'reached anew'), 'Better'),
  ];
  return [
    ...(told.length === 0 ? ['Nobody would be worse off by more than is known.'] : told),
    ...named(unreached, 'Without any way already'),
  ].join(' ');
}
