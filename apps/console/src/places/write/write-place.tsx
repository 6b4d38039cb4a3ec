import { useEffect } from 'react';
import { composers, consoleKind } from '../../bearers/registry';
import { ProposedPathsProvider, UnderTextProvider } from '../../bearers/under-text';
import { useDraft, useDrafts } from '../../drafts/drafts';
import { useBearers } from '../../live/queries';
import { Button } from '../../ui/button';
import { Row, Stack } from '../../ui/layout';
import { Notice, Page } from '../../ui/page';
import { Body, Heading } from '../../ui/text';
import { ProposedWays } from '../../ways/proposed-ways';
import { useReckonedPaths } from '../../ways/use-ways';
import { Whom } from '../../ways/whom';
import { OtherDrafts } from './other-drafts';

interface WritePlaceProps {
  /** The draft that the address names. */
  wanted?: string;
  /** Told which one is shown, for the address. */
  shown?: (id: string) => void;
}

/** The one composer: whom it is for, the way that is proposed, what, and what it costs. */
export function WritePlace({ wanted, shown }: WritePlaceProps) {
  const draft = useDraft();
  const { show, kept, discarded, putBack } = useDrafts();
  const known = useDrafts(({ drafts }) => wanted === undefined || wanted in drafts);
  const bearers = useBearers();
  const paths = useReckonedPaths();
  // The address decides what is shown; without one, or with one that is gone, it is what this tab writes.
  useEffect(() => {
    if (wanted !== undefined && known) show(wanted);
  }, [wanted, known, show]);
  const following = wanted !== undefined && known && wanted !== draft.id;
  useEffect(() => {
    if (!following && wanted !== draft.id) shown?.(draft.id);
  }, [following, wanted, draft.id, shown]);
  const there = new Set(
    bearers.data?.flatMap(({ config, enabled }) => (enabled ? [consoleKind(config.kind).composer?.id] : [])),
  );
  const ways = composers().filter(({ id, always }) => always || there.has(id));
  const way = ways.find(({ id }) => id === draft.way) ?? ways[0];
  return (
    <Page title="Write">
      {discarded ? (
        <Notice title="Thrown away">
          <Button
            title="Put it back"
            kind="plain"
            onPress={() => {
              putBack();
              shown?.(discarded.id);
            }}
          />
        </Notice>
      ) : null}
      {kept ? null : (
        <Notice kind="alarm" title="Not kept on this device">
          It has no room: what you write is lost when this page is closed. Send it, or throw other drafts away.
        </Notice>
      )}
      {way ? <Whom key={draft.id} /> : null}
      {ways.length > 1 ? (
        <Stack below={16}>
          <Heading level={2}>Way</Heading>
          <Row role="group" aria-label="Way" wrap gap={8}>
            {ways.map(({ id, title }) => (
              <Button
                key={id}
                title={title}
                kind={id === way?.id ? 'main' : 'plain'}
                selected={id === way?.id}
                onPress={() => draft.change({ way: id })}
              />
            ))}
          </Row>
        </Stack>
      ) : null}
      {/* Another draft is another form: nothing of one is shown in the other. */}
      {way ? (
        <UnderTextProvider value={<ProposedWays key={draft.id} />}>
          <ProposedPathsProvider value={paths}>
            <way.Form key={draft.id} />
          </ProposedPathsProvider>
        </UnderTextProvider>
      ) : (
        <Body soft>There is no way to write for.</Body>
      )}
      <OtherDrafts />
    </Page>
  );
}
