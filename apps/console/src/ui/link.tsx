import { router, type Href } from 'expo-router';
import type { ReactNode } from 'react';
import { Pressable, type GestureResponderEvent } from 'react-native';
import { laidOut, type Laid } from './laid';
import { useLook } from './look';

/** Where something leads: an address of this console. */
export type Address = string;

/** Whether the browser answers this press by itself: in another tab or window, or by saving. */
function isBrowsers(event: GestureResponderEvent): boolean {
  const { ctrlKey, metaKey, shiftKey, altKey, button } = event as unknown as Partial<MouseEvent>;
  return Boolean(ctrlKey || metaKey || shiftKey || altKey || (button ?? 0) !== 0);
}

/** What makes anything that is pressed a link: an address that can be opened elsewhere and copied, followed here without a load. */
export const leadsTo = (href: Address, go: () => void = () => router.navigate(href as Href)) => ({
  role: 'link' as const,
  // The types of React Native know no addresses; on the web it makes an anchor.
  ...({ href } as object),
  onPress: (event: GestureResponderEvent) => {
    if (isBrowsers(event)) return;
    event.preventDefault();
    go();
  },
});

interface LinkProps extends Partial<Laid> {
  /** What it holds stands beside each other, not below. */
  row?: boolean;
  href: Address;
  /** Followed in another way than by going to the address, such as beside the list that it stands in. */
  go?: () => void;
  /** Spoken in place of what it holds. */
  label?: string;
  /** What is shown is what it leads to. */
  current?: 'page' | 'step' | 'true';
  children: ReactNode;
}

/** A link around anything that holds no other control. */
export function Link({ href, go, label, current, row, children, ...more }: LinkProps) {
  const { style: laid } = laidOut(more, useLook());
  return (
    <Pressable
      {...leadsTo(href, go)}
      aria-label={label}
      aria-current={current}
      style={[row && { flexDirection: 'row' }, laid]}
    >
      {children}
    </Pressable>
  );
}
