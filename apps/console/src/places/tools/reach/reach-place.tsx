import { ownStation, sendsPackets, type BearerView } from '@tombolo/contract';
import { chirpSettings, PACKET_SETTINGS, REGIONS, type Position } from '@tombolo/core';
import { useAddressed } from '../../../live/addressed';
import { useBearers, useSettings, useStations } from '../../../live/queries';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { Offers } from '../../../ui/offers';
import { Page, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { useProfile } from './at-station';
import { END_FIELDS, endOf, numberOf, placeOf, type EndField, type Place } from './ends';
import { Coverage } from './coverage';
import { Measured } from './measured';
import { ReachResult } from './reach-result';

const USUAL = {
  from: '',
  to: '',
  use: 'packets',
  mhz: '',
  fromAntennaM: '6',
  fromPowerW: '25',
  fromGainDbi: '2',
  fromClutterDb: '0',
  toAntennaM: '2',
  toPowerW: '5',
  toGainDbi: '0',
  toClutterDb: '0',
} as const satisfies Record<string, string>;
type Said = Record<keyof typeof USUAL, string>;
const FREQUENCY = { least: 30, most: 3000 };
/** Where nothing is set that tells. */
const USUAL_MHZ = { packets: 144.8, mesh: 868 };
const USUAL_BANDWIDTH_HZ = 125_000;

/** What the bearers themselves are tuned to. */
function tunedMHz(use: 'packets' | 'mesh', bearers: readonly BearerView[], region: string | null): number {
  for (const { config } of bearers) {
    if (use === 'mesh' && 'radio' in config && config.radio) return config.radio.frequencyHz / 1e6;
    if (use === 'packets' && sendsPackets(config) && 'frequencyMHz' in config && config.frequencyMHz)
      return config.frequencyMHz;
  }
  const usual = use === 'packets' ? REGIONS.find(({ id }) => id === region)?.packetMHz : null;
  return usual ?? USUAL_MHZ[use];
}

/** How far the radio reaches between two places: over which ground, with how much in hand, and which setting the link bears. */
export function ReachPlace() {
  const settings = useSettings();
  const stations = useStations();
  const bearers = useBearers();
  const [said, change] = useAddressed<Said>(USUAL);
  const use = said.use === 'mesh' ? 'mesh' : 'packets';
  const heard = stations.data ?? [];
  const own = settings.data?.position ?? null;
  const here: Place | string = own
    ? { words: 'this station', ...own }
    : 'where this station is, is not known: enter it under Position, or a place here';
  const from = said.from.trim() === '' ? here : placeOf(said.from, heard);
  const to = placeOf(said.to, heard);
  const usualMHz = tunedMHz(use, bearers.data ?? [], settings.data?.region ?? null);
  const frequency = said.mhz.trim() === '' ? usualMHz : numberOf(said.mhz, FREQUENCY.least, FREQUENCY.most);
  const typedOf = (side: 'from' | 'to') =>
    Object.fromEntries(END_FIELDS.map(({ id }) => [id, said[fieldOf(side, id)]])) as Record<EndField, string>;
  const ends = { from: endOf(typedOf('from')), to: endOf(typedOf('to')) };
  const [fromPlace, toPlace] = [placed(from), placed(to)];
  const profile = useProfile(fromPlace, toPlace);
  if (settings.isLoadingError) return <Trouble error={settings.error} retry={() => void settings.refetch()} />;
  if (!settings.data) return <Waiting what="settings" />;
  const ownCall = ownStation(settings.data);
  const typed = said.to.trim().toUpperCase();
  const offers = heard
    .filter(({ call, latitude }) => latitude !== null && call !== ownCall && call !== typed && call.startsWith(typed))
    .map(({ call }) => call)
    .slice(0, 6);
  const mesh = bearers.data?.map(({ config }) => config).find((config) => 'radio' in config);
  const bandwidthHz = mesh && 'radio' in mesh && mesh.radio ? mesh.radio.bandwidthHz : USUAL_BANDWIDTH_HZ;
  return (
    <Page title="Reach">
      <Body soft below={12}>
        Reckoned from the map: free space, the earth’s bulge and the ground between. Trees, houses and the weather are
        not in it. What was heard tells more than any reckoning.
      </Body>
      <Field
        label="From"
        value={said.from}
        onChangeText={(text) => change({ from: text })}
        autoCapitalize="characters"
        error={typeof from === 'string' ? from : undefined}
        hint={said.from.trim() === '' ? 'Empty: this station' : 'A call sign or a position'}
      />
      <Field
        label="To"
        value={said.to}
        onChangeText={(text) => change({ to: text })}
        autoCapitalize="characters"
        error={said.to.trim() !== '' && typeof to === 'string' ? to : undefined}
        hint="A call sign that was heard with a position, or a position in any form"
      />
      <Offers label="Heard with a position" mono words={offers} choose={(call) => change({ to: call })} />
      <Choice<'packets' | 'mesh'>
        label="By"
        value={use}
        onChange={(one) => change({ use: one })}
        options={[
          { id: 'packets', title: 'Packet radio' },
          { id: 'mesh', title: 'Mesh' },
        ]}
      />
      <Field
        label="Frequency, MHz"
        value={said.mhz}
        onChangeText={(text) => change({ mhz: text })}
        inputMode="decimal"
        error={typeof frequency === 'string' ? frequency : undefined}
        hint={said.mhz.trim() === '' ? `Empty: ${usualMHz.toFixed(3)}` : undefined}
      />
      <Row wrap columnGap={24}>
        {(['from', 'to'] as const).map((side) => (
          <Stack key={side} grow={1} basis={280}>
            <Heading level={2}>{side === 'from' ? 'At the start' : 'At the far end'}</Heading>
            {END_FIELDS.map(({ id, label, least, most }) => {
              const name = fieldOf(side, id);
              const fault = numberOf(said[name], least, most);
              return (
                <Field
                  key={id}
                  label={`${side === 'from' ? 'Start' : 'Far end'}: ${label}`}
                  value={said[name]}
                  onChangeText={(text) => change({ [name]: text })}
                  inputMode="decimal"
                  error={typeof fault === 'string' ? fault : undefined}
                />
              );
            })}
          </Stack>
        ))}
      </Row>
      {profile.isLoading ? <Waiting what="the ground between" /> : null}
      {profile.isError ? <Trouble error={profile.error} retry={() => void profile.refetch()} /> : null}
      {profile.data && fromPlace && toPlace && ends.from && ends.to && typeof frequency === 'number' ? (
        <ReachResult
          from={fromPlace}
          to={toPlace}
          profile={profile.data}
          ends={{ from: ends.from, to: ends.to }}
          frequencyMHz={frequency}
          use={use}
          bandwidthHz={bandwidthHz}
        />
      ) : null}
      {fromPlace && ends.from && ends.to && typeof frequency === 'number' ? (
        <Coverage
          key={use}
          from={fromPlace}
          ends={{ from: ends.from, to: ends.to }}
          frequencyMHz={frequency}
          settings={use === 'mesh' ? chirpSettings(bandwidthHz) : PACKET_SETTINGS}
          stations={heard.flatMap(({ call, kind, latitude, longitude }) =>
            kind !== 'station' || latitude === null || longitude === null || call === ownCall
              ? []
              : [{ call, latitude, longitude }],
          )}
        />
      ) : null}
      {use === 'packets' ? <Measured /> : null}
    </Page>
  );
}

const fieldOf = (side: 'from' | 'to', id: EndField): keyof Said =>
  `${side}${id[0]!.toUpperCase()}${id.slice(1)}` as keyof Said;

const placed = (place: Place | string): (Place & Position) | null => (typeof place === 'string' ? null : place);
