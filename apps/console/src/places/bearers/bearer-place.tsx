import { consoleKind } from '../../bearers/registry';
import { useBearers } from '../../live/queries';
import { Empty, Page, Trouble, Waiting } from '../../ui/page';
import { BearerCard } from './bearer-card';

/** One bearer from inside, as its kind shows it. */
export function BearerPlace({ id }: { id: string }) {
  const bearers = useBearers();
  if (bearers.isPending)
    return (
      <Page title="Bearer">
        <Waiting what="the bearer" />
      </Page>
    );
  const bearer = bearers.data?.find((candidate) => candidate.id === id);
  if (!bearer)
    return (
      <Page title="Bearer">
        {bearers.isError ? (
          <Trouble error={bearers.error} retry={() => void bearers.refetch()} />
        ) : (
          <Empty
            icon="transit-connection-variant"
            title="That bearer is gone"
            action={{ title: 'All bearers', href: '/bearers' }}
          >
            It was removed, perhaps on another console.
          </Empty>
        )}
      </Page>
    );
  const { inside } = consoleKind(bearer.config.kind);
  return inside ? (
    <inside.Place bearer={bearer} config={bearer.config} />
  ) : (
    <Page title={bearer.name}>
      <BearerCard bearer={bearer} />
    </Page>
  );
}
