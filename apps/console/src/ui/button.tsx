import { Button as ElementButton } from '@rneui/themed';
import { type, useLook } from './look';
import { Icon, type IconName } from './icon';
import { leadsTo, type Address } from './link';

interface ButtonProps {
  /** Says what will happen. */
  title: string;
  onPress?: () => void;
  /** Where it leads: then it is a link in the shape of a button. */
  href?: Address;
  icon?: IconName;
  /** `plain` for the second choice, `alarm` for what cannot be undone. */
  kind?: 'main' | 'plain' | 'alarm';
  disabled?: boolean;
  busy?: boolean;
  /** Which of several it is about: spoken after the title, which is not enough by itself. */
  about?: string;
  selected?: boolean;
}

/** At least 48 px high, for gloves. */
export function Button({ title, onPress, href, icon, kind = 'main', disabled, busy, about, selected }: ButtonProps) {
  const look = useLook();
  const main = kind === 'main';
  const front = main ? look.onTide : kind === 'alarm' ? look.alarm : look.tide;
  return (
    <ElementButton
      title={title}
      {...(href === undefined ? { onPress } : (leadsTo(href, onPress) as object))}
      disabled={disabled}
      loading={busy}
      loadingProps={{ color: front }}
      aria-label={about ? `${title}: ${about}` : title}
      aria-pressed={selected}
      {...(icon && { icon: <Icon name={icon} color={disabled ? look.inkSoft : front} size={20} /> })}
      titleStyle={{
        fontFamily: type.bold,
        fontSize: 16,
        lineHeight: 22,
        color: front,
        marginLeft: icon ? 8 : 0,
        flexShrink: 1,
        textAlign: 'left',
      }}
      disabledTitleStyle={{ color: look.inkSoft }}
      buttonStyle={{
        minHeight: 48,
        borderRadius: 4,
        paddingHorizontal: 16,
        paddingVertical: 8,
        backgroundColor: main ? look.tide : selected ? look.leaf : 'transparent',
        borderWidth: main ? 0 : 1,
        borderColor: kind === 'alarm' ? look.alarm : selected ? look.tide : look.rule,
      }}
      disabledStyle={{ backgroundColor: main ? look.rule : 'transparent', borderColor: look.rule }}
    />
  );
}
