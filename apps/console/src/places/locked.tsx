import { bearerKind, locksOf, type BearerView, type Settings } from '@tombolo/contract';
import { useBearers, useSettings } from '../live/queries';
import { Icon } from '../ui/icon';
import { Link } from '../ui/link';
import { useLook, useWide } from '../ui/look';
import { Body } from '../ui/text';

/** What is locked of what could send, in words, and why; null when nothing is. A mesh needs no licence and may be open by itself. */
export function lockedWords(
  bearers: readonly Pick<BearerView, 'name' | 'config' | 'enabled'>[],
  settings: Settings,
): { readonly words: string; readonly why: string } | null {
  const sending = bearers.filter(({ config, enabled }) => enabled && bearerKind(config.kind).sends !== 'nothing');
  const locked = sending.flatMap(({ name, config }) => {
    const [why] = locksOf(config.kind, settings);
    return why === undefined ? [] : [{ name, why }];
  });
  const [first, ...others] = locked;
  if (!first) return null;
  const by = others.length === 0 ? first.name : `${first.name} and ${others.length} more`;
  return {
    words: locked.length === sending.length ? 'Locked: nothing is transmitted' : `Locked: nothing goes out by ${by}`,
    why: first.why,
  };
}

/** On every place: what does not go out, where it is wide enough also why, and where that is changed. */
export function LockedBanner() {
  const look = useLook();
  const wide = useWide();
  const settings = useSettings();
  const bearers = useBearers();
  const locked = settings.data && bearers.data ? lockedWords(bearers.data, settings.data) : null;
  if (!locked) return null;
  return (
    <Link href="/tools/settings" minHeight={48} padX={16} row align="center" gap={8} ruled>
      <Icon name="lock-outline" size={20} color={look.sandText} />
      <Body fill tone="sandText" numberOfLines={1}>
        {wide ? `${locked.words}. ${locked.why}` : locked.words}
      </Body>
      <Body tone="tide">Answer</Body>
    </Link>
  );
}
