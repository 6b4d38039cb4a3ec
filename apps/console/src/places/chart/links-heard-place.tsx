import { ownStation, type HeardLink } from '@tombolo/contract';
import { cutOffWithout, distanceInWords } from '@tombolo/core';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { useDistanceUnit, useTimeWords } from '../../live/preferences';
import { useHeardLinks, useSettings } from '../../live/queries';
import { Button } from '../../ui/button';
import { useNow } from '../../ui/clock';
import { Field } from '../../ui/field';
import { Row, Stack } from '../../ui/layout';
import { Empty, Page, Trouble, Waiting } from '../../ui/page';
import { Body, Heading, Mono } from '../../ui/text';
import { age } from '../../ui/time';

const fromWords = ({ from, fromName }: HeardLink): string => fromName ?? from;
const byWords = ({ by, byName }: HeardLink): string => byName ?? by;

/** Who hears whom by radio, as far as paths prove it. */
export function LinksHeardPlace() {
  const timeWords = useTimeWords();
  const now = useNow();
  const links = useHeardLinks();
  const unit = useDistanceUnit();
  const settings = useSettings();
  const own = settings.data ? ownStation(settings.data) : null;
  const [text, setText] = useState('');
  const wanted = text.trim().toUpperCase();
  const rows = (links.data ?? []).filter((link) => fromWords(link).includes(wanted) || byWords(link).includes(wanted));
  return (
    <Page title="Who hears whom">
      <Stack align="start" below={8}>
        <Button title="Back to the chart" icon="arrow-left" kind="plain" href="/chart" />
      </Stack>
      <Body soft below={8}>
        As paths tell it. Proven is what our own receiver, or that of a recording, got. Inferred is what a gateway
        tells, and who heard whom on the way: a digipeater that does not sign may stand between. That A hears B does not
        say that B hears A.
      </Body>
      <Field label="Call" value={text} onChangeText={setText} mono autoCapitalize="characters" hint="Part of a call" />
      {links.isPending ? <Waiting what="links" /> : null}
      {links.isError ? <Trouble error={links.error} retry={() => void links.refetch()} /> : null}
      {links.data && rows.length === 0 ? (
        <Empty icon="transit-connection-variant" title={wanted ? 'No link with that call' : 'No link heard yet'}>
          A link appears with the first packet whose path tells of it.
        </Empty>
      ) : null}
      {own && wanted === '' ? <Hanging links={links.data ?? []} own={own} /> : null}
      <View role="list" aria-label="Links by radio">
        {rows.map((link) => (
          <Stack role="listitem" key={`${link.from}>${link.by}`} padY={8} ruled>
            <Row justify="between" wrap gap={8}>
              <Mono bold>{`${byWords(link)} hears ${fromWords(link)}`}</Mono>
              <Mono soft>{`${link.count} ×`}</Mono>
            </Row>
            <Body soft>
              {[
                link.certainCount === 0 ? 'inferred' : `proven ${link.certainCount} ×`,
                `last ${age(link.lastAt, now)} ago`,
                link.firstCount === 0
                  ? 'only packets that it repeated'
                  : link.firstCount < link.count
                    ? `${link.firstCount} of its own`
                    : 'its own packets',
                link.bestKm === null || link.bestAt === null
                  ? null
                  : `farthest ${distanceInWords(link.bestKm, unit)}, ${timeWords(link.bestAt, now)}`,
              ]
                .filter(Boolean)
                .join('; ')}
            </Body>
          </Stack>
        ))}
      </View>
    </Page>
  );
}

/** So many of those who would be cut off are named. */
const MOST_NAMED = 8;

/** Without whom others would no longer reach us, as far as links are known. */
function Hanging({ links, own }: { links: readonly HeardLink[]; own: string }) {
  const hanging = useMemo(
    () =>
      cutOffWithout(
        links.map(({ from, by }) => ({ from, to: by })),
        own,
      ),
    [links, own],
  );
  if (hanging.length === 0) return null;
  const nameOf = (call: string) => {
    const link = links.find(({ from, by }) => from === call || by === call);
    return link === undefined ? call : link.from === call ? fromWords(link) : byWords(link);
  };
  return (
    <Stack below={16}>
      <Heading level={2}>On whom others hang</Heading>
      <Body soft>As far as links were heard, taken both ways: there may be others that nobody told of.</Body>
      <View role="list" aria-label="On whom others hang">
        {hanging.map(({ without, cutOff }) => (
          <Stack role="listitem" key={without} padY={4}>
            <Body>
              {`Without ${nameOf(without)} nothing would be known of a way to ${cutOff.slice(0, MOST_NAMED).map(nameOf).join(', ')}${cutOff.length > MOST_NAMED ? ` and ${cutOff.length - MOST_NAMED} more` : ''}.`}
            </Body>
          </Stack>
        ))}
      </View>
    </Stack>
  );
}
