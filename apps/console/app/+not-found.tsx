import { Empty, Page } from '../src/ui/page';

export { ErrorBoundary } from '../src/places/boundary';

export default function NotFound() {
  return (
    <Page title="Not here">
      <Empty
        icon="sign-direction-remove"
        title="There is no such page"
        action={{ title: 'Go to Traffic', href: '/traffic' }}
      >
        The address may be old. Nothing was lost.
      </Empty>
    </Page>
  );
}
