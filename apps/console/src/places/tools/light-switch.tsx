import { Icon, type IconName } from '../../ui/icon';
import { LIGHTS, LIGHT_WORDS, type Light } from '../../ui/lights';
import { useLight, useLook, useWide } from '../../ui/look';
import { Body } from '../../ui/text';
import { Press } from '../../ui/press';
import { inBar } from '../../ui/repeated';

const ICONS: Record<Light, IconName> = { day: 'white-balance-sunny', dusk: 'weather-sunset', watch: 'eye-outline' };

/** Goes to the next of the three lights in one tap. */
export function LightSwitch() {
  const { light, choose } = useLight();
  const look = useLook();
  const wide = useWide();
  const next = LIGHTS[(LIGHTS.indexOf(light) + 1) % LIGHTS.length]!;
  return (
    <Press
      role="button"
      aria-label={`Light: ${LIGHT_WORDS[light]}. Change to ${next}`}
      onPress={() => choose(next)}
      {...inBar(wide)}
    >
      <Icon name={ICONS[light]} color={look.inkSoft} />
      {wide ? <Body soft>{light[0]!.toUpperCase() + light.slice(1)}</Body> : null}
    </Press>
  );
}
