import { notifyManager, useQueryClient, type Query } from '@tanstack/react-query';
import { useCallback, useEffect, useState, useSyncExternalStore } from 'react';
import { View } from 'react-native';
import { useConnection } from '../live/feed';
import { Button } from '../ui/button';
import { Icon } from '../ui/icon';
import { useLook } from '../ui/look';
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
  const look = useLook();
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
    <View
      role="alert"
      style={{
        padding: 10,
        borderBottomWidth: 1,
        borderBottomColor: look.alarm,
        flexDirection: 'row',
        alignItems: 'center',
        gap: 8,
      }}
    >
      <Icon name="connection" color={look.alarm} />
      <Body style={{ color: look.alarm, flex: 1 }}>
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
    </View>
  );
}
