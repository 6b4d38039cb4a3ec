import { BANDWIDTHS_HZ, firstHeardMin, meshRadioWords, planGroup, type MeshRadio } from '@tombolo/core';
import { useAddressed } from '../../../live/addressed';
import { useBearers, useSettings } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { numberOf } from '../reach/ends';
import { FieldRow } from './field-row';
import { numbersOf, USUAL_PLAN, type Entered } from './fields';
import { GroupResult } from './group-plan';
import { PowerPlan } from './power-plan';

const USUAL = { ...USUAL_PLAN, latitude: '' };
const GROUP = [
  'nodes',
  'carriers',
  'neighboursKm',
  'acrossKm',
  'clutterDb',
  'powerDbm',
  'gainDb',
  'texts',
  'octets',
] as const;
const ANNOUNCING = ['everyMin', 'heard'] as const;
/** Where no mesh is set up that tells. */
const USUAL_RADIO: MeshRadio = {
  frequencyHz: 868_300_000,
  spreadingFactor: 9,
  bandwidthHz: BANDWIDTHS_HZ[0],
  codingRate: 1,
};

/** A group of mesh nodes before it is put up: setting, hop limit, running time, sun, and when the first is heard. */
export function MeshPlanPlace() {
  const settings = useSettings();
  const bearers = useBearers();
  const [said, change] = useAddressed<typeof USUAL>(USUAL);
  const failed = [settings, bearers].find(({ isLoadingError }) => isLoadingError);
  if (failed?.error)
    return (
      <Page title="Mesh plan">
        <Trouble error={failed.error} retry={() => void Promise.all([settings.refetch(), bearers.refetch()])} />
      </Page>
    );
  if (!settings.data || !bearers.data) return <Waiting what="settings" />;
  const { latitude: latitudeText, ...fields } = said;
  const entered: Entered = fields;
  const tuned = bearers.data.flatMap(({ config }) => ('radio' in config && config.radio ? [config.radio] : []))[0];
  const radio = tuned ?? USUAL_RADIO;
  const group = numbersOf(entered, GROUP);
  const plan =
    group && group.carriers <= group.nodes ? planGroup({ ...radio, ...group, textsPerHour: group.texts }) : null;
  const usual = settings.data.position?.latitude ?? null;
  const latitude =
    latitudeText.trim() === '' ? (usual ?? 'where it stands, for the sun') : numberOf(latitudeText, -90, 90);
  const announcing = numbersOf(entered, ANNOUNCING);
  const transmitShare = (plan?.proposed ?? plan?.settings[2])?.carrierShare ?? null;
  return (
    <Page title="Mesh plan">
      <Body soft below={12}>
        Which setting of the modem and which hop limit do for a group, how long its nodes run, and when the first of
        them is heard. The plan stands in the address: it can be handed on.
      </Body>
      <Heading level={2}>The group</Heading>
      <Body soft>
        {tuned
          ? `Reckoned for your mesh: ${meshRadioWords(tuned)}. Only the spreading factor is asked anew.`
          : `No mesh is set up: reckoned for ${meshRadioWords(USUAL_RADIO)}.`}
      </Body>
      <FieldRow ids={GROUP} entered={entered} change={change} />
      {group && group.carriers > group.nodes ? <Body bold>There are more carriers than nodes.</Body> : null}
      {plan ? <GroupResult plan={plan} /> : null}
      <PowerPlan
        entered={entered}
        change={change}
        transmitShare={transmitShare}
        latitude={{ text: latitudeText, change: (text) => change({ latitude: text }), usual, value: latitude }}
      />
      <Rule />
      <Heading level={2}>The first hour</Heading>
      <FieldRow ids={ANNOUNCING} entered={entered} change={change} />
      {group && announcing ? (
        <Body bold>
          {firstWords(
            ...([0.5, 0.9].map((share) =>
              firstHeardMin(
                { nodes: group.nodes - 1, everyMin: announcing.everyMin, chance: announcing.heard / 100 },
                share,
              ),
            ) as [number | null, number | null]),
          )}
        </Body>
      ) : null}
      <Rule />
      <Heading level={2}>Before it goes up</Heading>
      <Body>
        Antenna first, then power. What is keyed into each node, in its order and with boxes to tick – position, tag,
        channel, keys, role, pairing number – is its set-up sheet:
      </Body>
      <Button title="Go to Equipment" kind="plain" href="/tools/equipment" />
    </Page>
  );
}

function firstWords(half: number | null, nine: number | null): string {
  if (half === null || nine === null) return 'Nobody is there to be heard.';
  return `The first of them is heard within ${minutes(half)} in half of all cases, within ${minutes(nine)} in nine of ten. An empty list before that is no fault.`;
}

const minutes = (value: number): string => (value < 1.5 ? 'a minute or so' : `${Math.round(value)} min`);
