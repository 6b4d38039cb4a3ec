import { Button } from './button';

/** The rest of a list that is loaded page by page. */
export function ShowOlder({
  list,
}: {
  list: { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => unknown };
}) {
  if (!list.hasNextPage) return null;
  return (
    <Button title="Show older" kind="plain" busy={list.isFetchingNextPage} onPress={() => void list.fetchNextPage()} />
  );
}
