import { router, usePathname, type Href } from 'expo-router';
import { useEffect, useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { usePreferences } from '../live/preferences';
import { Icon, type IconName } from '../ui/icon';
import { useLook, useWide } from '../ui/look';
import { Body } from '../ui/text';
import { AlarmBanner } from './alarm-banner';
import { focusHeading } from '../ui/heading-focus';
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
import { leadsTo, Link, type Address } from '../ui/link';

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
  const look = useLook();
  const path = usePathname();
  const [shortcuts, setShortcuts] = useState(false);
  useArrival(path);
  useTrueAddress(path);
  useShortcuts(() => setShortcuts((shown) => !shown));
  const links = PLACES.map((place) => (
    <PlaceLink key={place.name} place={place} here={path.startsWith(String(place.href))} wide={wide} />
  ));
  const head = (
    <View
      role="banner"
      style={{
        flexDirection: wide ? 'column' : 'row',
        alignItems: wide ? 'stretch' : 'center',
        justifyContent: 'space-between',
        paddingHorizontal: wide ? 8 : 16,
        paddingVertical: wide ? 12 : 2,
        gap: 4,
      }}
    >
      <Body bold size={18} padX={wide ? 10 : 0}>
        Tombolo
      </Body>
      {wide ? null : (
        <Row align="center">
          <HoldButton />
          <LightSwitch />
          <ToolsLink wide={false} here={path.startsWith('/tools')} />
        </Row>
      )}
    </View>
  );
  return (
    <View style={{ flex: 1, flexDirection: wide ? 'row' : 'column', backgroundColor: look.paper }}>
      <SkipLink />
      {wide ? (
        <View style={{ width: 176, borderRightWidth: 1, borderRightColor: look.rule, justifyContent: 'space-between' }}>
          <View>
            {head}
            <View role="navigation" aria-label="Places">
              {links}
            </View>
          </View>
          <Stack role="region" aria-label="Station and tools" pad={8} gap={4}>
            <HoldButton />
            <LightSwitch />
            <ToolsLink wide here={path.startsWith('/tools')} />
          </Stack>
        </View>
      ) : (
        <Stack ruled>{head}</Stack>
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
        <View
          role="navigation"
          aria-label="Places"
          style={{ flexDirection: 'row', borderTopWidth: 1, borderTopColor: look.rule, backgroundColor: look.leaf }}
        >
          {links}
        </View>
      )}
    </View>
  );
}

/** The first stop of the Tab key: past the places to what this one shows. Seen only when it is reached. */
function SkipLink() {
  const look = useLook();
  return (
    <Pressable
      {...leadsTo('#place', () => void focusHeading())}
      style={(state) => ({
        position: 'absolute',
        zIndex: 1,
        left: (state as { focused?: boolean }).focused ? 8 : -9999,
        top: 8,
        minHeight: 48,
        paddingHorizontal: 16,
        justifyContent: 'center',
        backgroundColor: look.leaf,
        borderWidth: 1,
        borderColor: look.tide,
      })}
    >
      <Body bold tone="tide">
        Skip to this place
      </Body>
    </Pressable>
  );
}

function PlaceLink({ place, here, wide }: { place: Place; here: boolean; wide: boolean }) {
  const look = useLook();
  const colour = here ? look.tide : look.inkSoft;
  return (
    <Link
      href={place.href}
      label={place.name}
      current={here ? 'page' : undefined}
      style={{
        flex: wide ? undefined : 1,
        flexDirection: wide ? 'row' : 'column',
        alignItems: 'center',
        justifyContent: wide ? 'flex-start' : 'center',
        gap: wide ? 12 : 0,
        minHeight: 56,
        paddingHorizontal: wide ? 18 : 0,
        borderTopWidth: wide ? 0 : 3,
        borderLeftWidth: wide ? 3 : 0,
        borderColor: here ? look.tide : 'transparent',
      }}
    >
      <Icon name={place.icon} color={colour} size={24} />
      <Body bold={here} style={{ color: colour, fontSize: wide ? 16 : 14, lineHeight: 20 }}>
        {place.name}
      </Body>
    </Link>
  );
}

function ToolsLink({ wide, here }: { wide: boolean; here: boolean }) {
  const look = useLook();
  return (
    <Link
      href="/tools"
      label="Tools and settings"
      current={here ? 'page' : undefined}
      style={{
        minHeight: 48,
        minWidth: 48,
        flexDirection: 'row',
        alignItems: 'center',
        justifyContent: wide ? 'flex-start' : 'center',
        gap: 12,
        paddingHorizontal: 10,
      }}
    >
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
