import { View } from 'react-native';
import { Choice } from '../../ui/choice';
import { LIGHTS, LIGHT_WORDS, type Light } from '../../ui/lights';
import { Icon, type IconName } from '../../ui/icon';
import { Row, Stack } from '../../ui/layout';
import { Link, type Address } from '../../ui/link';
import { useLight, useLook } from '../../ui/look';
import { Page, Rule } from '../../ui/page';
import { Body, Heading } from '../../ui/text';

const CAUTIONS = [
  'Transmit only with a licence that covers it, and identify as your rules ask – in the United States at least every ten minutes and at the end (47 CFR 97.119).',
  'Nothing whose meaning is hidden goes out on amateur bands (47 CFR 97.113(a)(4) and most other rules).',
  'Texts for people without a licence are third-party traffic: you answer for them, and abroad it may need an agreement (47 CFR 97.115).',
  'Antenna before power: a transmitter without one can destroy its output stage.',
  'Keep masts and wires away from power lines, and yourself away from masts in a thunderstorm.',
  'Keep the distance to a transmitting antenna that the exposure rules of your country give.',
  'Do not write while driving.',
  'This program is no rescue service. Where a phone works, call the emergency number first.',
] as const;

interface Tool {
  readonly title: string;
  readonly icon: IconName;
  readonly href: Address;
}

/** By what they are about; what is needed in danger comes first. */
const GROUPS: readonly { readonly title: string; readonly tools: readonly Tool[] }[] = [
  {
    title: 'In danger',
    tools: [{ title: 'Call for help', icon: 'alert-octagram-outline', href: '/tools/emergency' }],
  },
  {
    title: 'Where things are',
    tools: [
      { title: 'Position', icon: 'crosshairs-gps', href: '/tools/position' },
      { title: 'Beacon', icon: 'access-point', href: '/tools/beacon' },
      { title: 'Things on the map', icon: 'map-marker-outline', href: '/tools/objects' },
      { title: 'Trackers', icon: 'satellite-variant', href: '/tools/trackers' },
      { title: 'Positions out', icon: 'map-marker-radius-outline', href: '/tools/positions-out' },
    ],
  },
  {
    title: 'Ready to go',
    tools: [
      { title: 'First steps', icon: 'walk', href: '/start' },
      { title: 'Ready check', icon: 'check-circle-outline', href: '/tools/ready' },
      { title: 'Equipment', icon: 'radio-handheld', href: '/tools/equipment' },
      { title: 'Reach', icon: 'antenna', href: '/tools/reach' },
      { title: 'Mesh plan', icon: 'lan', href: '/tools/mesh-plan' },
      { title: 'What if', icon: 'sign-direction-remove', href: '/tools/what-if' },
      { title: 'Forecasts', icon: 'sign-direction', href: '/tools/forecasts' },
      { title: 'Serial lines', icon: 'lan-connect', href: '/tools/serial' },
    ],
  },
  {
    title: 'For others',
    tools: [
      { title: 'People', icon: 'account-outline', href: '/tools/people' },
      { title: 'Services', icon: 'book-open-outline', href: '/tools/services' },
      { title: 'Phrases', icon: 'pencil-outline', href: '/tools/phrases' },
      { title: 'Bulletins', icon: 'bullhorn-outline', href: '/tools/bulletins' },
      { title: 'Standing rules', icon: 'transfer-right', href: '/tools/rules' },
      { title: 'Repeating', icon: 'transit-connection-variant', href: '/tools/repeating' },
    ],
  },
  {
    title: 'This station',
    tools: [
      { title: 'Settings', icon: 'tune', href: '/tools/settings' },
      { title: 'Backup', icon: 'archive-lock-outline', href: '/tools/backup' },
    ],
  },
];

function ToolLink({ title, icon, href }: Tool) {
  const look = useLook();
  return (
    <Stack role="listitem" grow={1} basis={160} maxWidth={280} ruled>
      <Link href={href} row align="center" gap={12} minHeight={52}>
        <Icon name={icon} color={look.tide} />
        <Body bold tone="tide" shrink={1}>
          {title}
        </Body>
      </Link>
    </Stack>
  );
}

export function ToolsPlace() {
  const { light, choose } = useLight();
  return (
    <Page title="Tools">
      {GROUPS.map(({ title, tools }) => (
        <Stack key={title} below={16}>
          <Heading level={2}>{title}</Heading>
          <Row role="list" aria-label={title} wrap columnGap={16}>
            {tools.map((tool) => (
              <ToolLink key={tool.href} {...tool} />
            ))}
          </Row>
        </Stack>
      ))}
      <Rule />
      <Choice<Light>
        label="Light"
        value={light}
        onChange={choose}
        options={LIGHTS.map((id) => ({ id, title: LIGHT_WORDS[id] }))}
      />
      <Rule />
      <Heading level={2}>Cautions</Heading>
      <Body soft below={8}>
        Your licence, your local rules and your agency’s plan come first.
      </Body>
      <View role="list">
        {CAUTIONS.map((caution) => (
          <Row key={caution} role="listitem" gap={8} below={8}>
            <Body soft>–</Body>
            <Body fill>{caution}</Body>
          </Row>
        ))}
      </View>
    </Page>
  );
}
