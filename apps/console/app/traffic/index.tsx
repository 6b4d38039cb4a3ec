import { Columns } from '../../src/places/columns';
import { TrafficList } from '../../src/places/traffic/traffic-list';
import { useWide } from '../../src/ui/look';
import { Body } from '../../src/ui/text';
import { Stack } from '../../src/ui/layout';

export { ErrorBoundary } from '../../src/places/boundary';

export default function Traffic() {
  const wide = useWide();
  const list = <TrafficList selectedId={null} />;
  if (!wide) return list;
  return (
    <Columns
      list={list}
      detail={
        <Stack pad={32}>
          <Body soft>Choose an item to see its road and what proves it.</Body>
        </Stack>
      }
    />
  );
}
