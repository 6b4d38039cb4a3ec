import { notifyManager, useQueryClient, type Query } from '@tanstack/react-query';
import { useCallback, useEffect, useState, useSyncExternalStore } from 'react';
import { useConnection } from '../live/feed';
import { Banner } from '../ui/banner';
import { Button } from '../ui/button';
import { Row } from '../ui/layout';
import { Body } from '../ui/text';

/** Shown from what was there before, since it could not be loaded again. */
const isOld = (query: Query): boolean =>
  query.state.status === 'error' && query.state.data !== undefined && query.isActive();

function useSomeIsOld(): boolean {
  const cache = useQueryClient().getQueryCache();
  return useSyncExternalStore(
    useCallback((changed: () => void) => cache.subscribe(notifyManager.batchCalls(changed)), [cache]),
    () => cache.getAll().some(isOld),
  );
}

/** Without a connection for so long, which one that comes and goes is not. */
const LOST_MS = 2000;

/** Says when what is shown may be old. */
export function MayBeOld() {
  const client = useQueryClient();
  const connected = useConnection((state) => state.connected);
  const old = useSomeIsOld();
  const [late, setLate] = useState(false);
  useEffect(() => {
    if (connected) return;
    const timer = setTimeout(() => setLate(true), LOST_MS);
    return () => {
      clearTimeout(timer);
      setLate(false);
    };
  }, [connected]);
  const lost = !connected && late;
  if (!lost && !(connected && old)) return null;
  return (
    <Banner icon="connection" edge={1}>
      <Row gap={8} align="center">
        <Body tone="alarm" fill>
          {lost
            ? 'No connection to the station. What you see may be old; it is tried again.'
            : 'Some of what you see could not be loaded again, and may be old.'}
        </Body>
        {lost ? null : (
          <Button
            title="Load again"
            kind="plain"
            onPress={() => void client.refetchQueries({ predicate: isOld, type: 'active' })}
          />
        )}
      </Row>
    </Banner>
  );
}
