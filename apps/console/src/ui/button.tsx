import ElementButton from '@rneui/themed/dist/Button';
import { useEffect, useRef, useState } from 'react';
import { Pressable, type PressableProps, type View } from 'react-native';
import { type, useLook } from './look';
import { scaled } from './scale';
import { Icon, type IconName } from './icon';
import { leadsTo, type Address } from './link';
import { Body } from './text';

interface ButtonProps {
  /** Says what will happen. */
  title: string;
  onPress?: () => void;
  /** Where it leads: then it is a link in the shape of a button. */
  href?: Address;
  icon?: IconName;
  /** `plain` for the second choice, `alarm` for what cannot be undone. */
  kind?: 'main' | 'plain' | 'alarm';
  /** Why it cannot be pressed now: it stays reachable, and says so when it is tried. */
  disabled?: false | string;
  busy?: boolean;
  /** Which of several it is about: spoken after the title, which is not enough by itself. */
  about?: string;
  selected?: boolean;
}

/** Pressed, and told to be disabled, without being taken out of reach: React Native knows only both together. */
function Reachable({ reason, ...pressed }: PressableProps & { reason?: string }) {
  const node = useRef<View>(null);
  useEffect(() => {
    const element = node.current as unknown as HTMLElement;
    for (const [name, value] of [
      ['aria-disabled', reason && 'true'],
      ['aria-description', reason],
    ] as const)
      if (value === undefined) element.removeAttribute(name);
      else element.setAttribute(name, value);
  });
  return <Pressable {...pressed} ref={node} />;
}

/** At least 48 px high, for gloves. */
export function Button({ title, onPress, href, icon, kind = 'main', disabled, busy, about, selected }: ButtonProps) {
  const look = useLook();
  const [tried, setTried] = useState(false);
  const off = typeof disabled === 'string';
  const main = kind === 'main';
  const front = main ? look.onTide : kind === 'alarm' ? look.alarm : look.tide;
  const button = (
    <ElementButton
      title={title}
      TouchableComponent={Reachable as never}
      {...({ reason: off ? disabled : undefined } as object)}
      {...(off
        ? { onPress: () => setTried(true) }
        : href === undefined
          ? { onPress }
          : (leadsTo(href, onPress) as object))}
      loading={busy}
      loadingProps={{ color: front, 'aria-hidden': true }}
      aria-label={about ? `${title}: ${about}` : title}
      aria-pressed={selected}
      {...(icon && { icon: <Icon name={icon} color={off ? look.inkSoft : front} size={20} /> })}
      titleStyle={{
        fontFamily: type.bold,
        fontSize: scaled(16),
        lineHeight: scaled(22),
        color: off ? look.inkSoft : front,
        marginLeft: icon ? 8 : 0,
        flexShrink: 1,
        textAlign: 'left',
      }}
      buttonStyle={{
        minHeight: 48,
        borderRadius: 4,
        paddingHorizontal: 16,
        paddingVertical: 8,
        backgroundColor: main ? (off ? look.rule : look.tide) : selected ? look.leaf : 'transparent',
        borderWidth: main ? 0 : 1,
        borderColor: off ? look.rule : kind === 'alarm' ? look.alarm : selected ? look.tide : look.rule,
      }}
    />
  );
  return (
    <>
      {button}
      {off && tried ? (
        <Body soft role="status">
          {disabled}
        </Body>
      ) : null}
    </>
  );
}
