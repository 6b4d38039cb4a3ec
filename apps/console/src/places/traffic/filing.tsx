import { counted } from '@tombolo/core';
import { api } from '../../live/api';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { Stack } from '../../ui/layout';
import { Notice } from '../../ui/page';

/** The station takes so many at once. */
const AT_ONCE = 500;

/** Files many at once, and takes that back. */
export function useFiling() {
  const file = useChange(
    async ({ ids, filed }: { ids: readonly string[]; filed: boolean }) => {
      const changed: string[] = [];
      for (let from = 0; from < ids.length; from += AT_ONCE)
        changed.push(...(await api.fileItems(ids.slice(from, from + AT_ONCE), filed)).changed);
      return { changed, filed };
    },
    ['items', 'item'],
  );
  return {
    busy: file.isPending,
    file: (ids: readonly string[]) => file.mutate({ ids, filed: true }),
    /** What it did, and the way back. */
    word: file.isError ? (
      <Notice kind="alarm" title="Not all were filed">
        {file.error.message}
      </Notice>
    ) : file.data && file.data.filed && file.data.changed.length > 0 ? (
      <Notice title={`${counted(file.data.changed.length, 'item')} filed`}>
        <Stack align="start">
          <Button
            title="Take them back"
            kind="plain"
            busy={file.isPending}
            onPress={() => file.mutate({ ids: file.data.changed, filed: false })}
          />
        </Stack>
      </Notice>
    ) : null,
  };
}
