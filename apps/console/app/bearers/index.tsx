import { HeardNow, BearersPlace } from '../../src/places/bearers/bearers-place';
import { Page } from '../../src/ui/page';
import { WithPacket } from '../../src/places/with-packet';

export { ErrorBoundary } from '../../src/places/boundary';

export default function Links() {
  return (
    <WithPacket
      beside={(openPacket) => (
        <Page title="Monitor">
          <HeardNow openPacket={openPacket} />
        </Page>
      )}
    >
      {(openPacket) => <BearersPlace openPacket={openPacket} />}
    </WithPacket>
  );
}
