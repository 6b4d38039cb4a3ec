import { transmitLocks } from '@tombolo/contract';
import { useSettings } from '../live/queries';
import { Icon } from '../ui/icon';
import { Link } from '../ui/link';
import { useLook, useWide } from '../ui/look';
import { Body } from '../ui/text';

/** On every place: nothing is transmitted, where it is wide enough also why, and where that is changed. */
export function LockedBanner() {
  const look = useLook();
  const wide = useWide();
  const settings = useSettings();
  const locks = settings.data ? transmitLocks(settings.data) : [];
  if (locks.length === 0) return null;
  return (
    <Link
      href="/tools/settings"
      style={{
        minHeight: 48,
        paddingHorizontal: 16,
        flexDirection: 'row',
        alignItems: 'center',
        gap: 8,
        borderBottomWidth: 1,
        borderBottomColor: look.rule,
      }}
    >
      <Icon name="lock-outline" size={20} color={look.sandText} />
      <Body style={{ flex: 1, color: look.sandText }} numberOfLines={1}>
        {wide ? `Locked: nothing is transmitted. ${locks[0]}` : 'Locked: nothing is transmitted'}
      </Body>
      <Body style={{ color: look.tide }}>Answer</Body>
    </Link>
  );
}
