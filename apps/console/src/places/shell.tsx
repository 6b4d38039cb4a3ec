import { router, usePathname, type Href } from 'expo-router';
import { useEffect, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { usePreferences } from '../live/preferences';
import { Icon, type IconName } from '../ui/icon';
import { useLook, useWide } from '../ui/look';
import { Body } from '../ui/text';
import { AlarmBanner } from './alarm-banner';
import { Row, Stack } from '../ui/layout';
import { useArrival } from './arrival';
import { Arrivals } from './arrivals';
import { HoldButton, HeldBanner } from './hold';
import { LockedBanner } from './locked';
import { MayBeOld } from './may-be-old';
import { NotStoring } from './not-storing';
import { Unanswered } from './unanswered';
import { OwnEmergencyBanner } from './own-emergency-banner';
import { FirstTime } from './start/first-time';
import { useTrueAddress } from './true-address';
import { LightSwitch } from './tools/light-switch';
import { ShortcutList } from './tools/shortcuts';
import { Link, type Address } from '../ui/link';
import { SkipLink } from '../ui/skip-link';
import { inBar } from '../ui/repeated';

interface Place {
  readonly href: Address;
  readonly name: string;
  readonly icon: IconName;
  readonly key: string;
}

export const PLACES: readonly Place[] = [
  { href: '/traffic', name: 'Traffic', icon: 'swap-horizontal', key: 't' },
  { href: '/chart', name: 'Chart', icon: 'compass-outline', key: 'c' },
  { href: '/write', name: 'Write', icon: 'pencil-outline', key: 'w' },
  { href: '/bearers', name: 'Bearers', icon: 'transit-connection-variant', key: 'b' },
  { href: '/log', name: 'Log', icon: 'book-open-outline', key: 'g' },
];

/** Five places: a bar at the bottom of a phone, a rail at the left of a wide screen. */
export function Shell({ children }: { children: ReactNode }) {
  const wide = useWide();
  const Frame = wide ? Row : Stack;
  const path = usePathname();
  const [shortcuts, setShortcuts] = useState(false);
  useArrival(path);
  useTrueAddress(path);
  useShortcuts(() => setShortcuts((shown) => !shown));
  const links = PLACES.map((place) => (
    <PlaceLink key={place.name} place={place} here={path.startsWith(String(place.href))} wide={wide} />
  ));
  const name = (
    <Body bold size={18} padX={wide ? 10 : 0}>
      Tombolo
    </Body>
  );
  return (
    <Frame fill ground="paper">
      <SkipLink />
      {wide ? (
        <Stack width={176} ruledRight justify="between">
          <View>
            <Stack role="banner" padX={8} padY={12} gap={4}>
              {name}
            </Stack>
            <View role="navigation" aria-label="Places">
              {links}
            </View>
          </View>
          <Stack role="region" aria-label="Station and tools" pad={8} gap={4}>
            <HoldButton />
            <LightSwitch />
            <ToolsLink wide here={path.startsWith('/tools')} />
          </Stack>
        </Stack>
      ) : (
        <Row role="banner" align="center" justify="between" padX={16} padY={2} gap={4} ruled>
          {name}
          <Row align="center">
            <HoldButton />
            <LightSwitch />
            <ToolsLink wide={false} here={path.startsWith('/tools')} />
          </Row>
        </Row>
      )}
      <Stack nativeID="place" fill minHeight={0} minWidth={0} role="main">
        <MayBeOld />
        <NotStoring />
        <HeldBanner />
        <FirstTime path={path} />
        <LockedBanner />
        <OwnEmergencyBanner />
        <AlarmBanner />
        <Arrivals path={path} />
        <Unanswered />
        {children}
        {shortcuts ? <ShortcutList close={() => setShortcuts(false)} /> : null}
      </Stack>
      {wide ? null : (
        <Row role="navigation" aria-label="Places" ruledAbove ground="leaf">
          {links}
        </Row>
      )}
    </Frame>
  );
}

function PlaceLink({ place, here, wide }: { place: Place; here: boolean; wide: boolean }) {
  const look = useLook();
  const tone = here ? 'tide' : 'inkSoft';
  const mark = here ? 'tide' : 'none';
  const along = wide
    ? ({ row: true, justify: 'start', gap: 12, padX: 18, mark } as const)
    : ({ fill: true, justify: 'center', markAbove: mark } as const);
  return (
    <Link
      href={place.href}
      label={place.name}
      current={here ? 'page' : undefined}
      align="center"
      minHeight={56}
      {...along}
    >
      <Icon name={place.icon} color={look[tone]} size={24} />
      <Body bold={here} tone={tone} size={wide ? 16 : 14} line={20}>
        {place.name}
      </Body>
    </Link>
  );
}

function ToolsLink({ wide, here }: { wide: boolean; here: boolean }) {
  const look = useLook();
  return (
    <Link href="/tools" label="Tools and settings" current={here ? 'page' : undefined} {...inBar(wide)}>
      <Icon name="cog-outline" color={here ? look.tide : look.inkSoft} />
      {wide ? <Body tone={here ? 'tide' : 'inkSoft'}>Tools</Body> : null}
    </Link>
  );
}

/** What takes keys itself, or is turned by one: a letter pressed there is no way to somewhere else. */
const TAKES_KEYS =
  'input, textarea, select, [contenteditable], [role="checkbox"], [role="radio"], [role="application"], [role="dialog"]';

/** Single keys, unless they are switched off; never while something is typed. */
function useShortcuts(toggleList: () => void): void {
  const on = usePreferences(({ singleKeys }) => singleKeys);
  useEffect(() => {
    if (!on) return;
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      if (event.ctrlKey || event.metaKey || event.altKey || target?.closest(TAKES_KEYS)) return;
      if (event.key === '?') toggleList();
      const place = PLACES.find((candidate) => candidate.key === event.key);
      if (place) router.navigate(place.href as Href);
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [toggleList, on]);
}
