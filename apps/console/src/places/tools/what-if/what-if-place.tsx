import { useQuery } from '@tanstack/react-query';
import { carriageOf, type NetView } from '@tombolo/contract';
import { planningRoutes } from '@tombolo/contract/routes/planning';
import type { Change, Position } from '@tombolo/core';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { useAddressed } from '../../../live/addressed';
import { ask } from '../../../live/ask';
import { useDistanceUnit } from '../../../live/preferences';
import { useBearers, usePeople, useStations } from '../../../live/queries';
import { useWork } from '../../../live/work';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Row, Stack } from '../../../ui/layout';
import { Measured } from '../../../ui/measured';
import { Empty, Notice, Page, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { useGround } from '../reach/at-station';
import { AirOfSetting } from './air-of-setting';
import { areaOfNet } from './area-of-net';
import { BesideEachOther } from './beside-each-other';
import { ChangeForm } from './change-form';
import { EveryWay } from './every-way';
import { besideOf, besideText, EVERYBODY } from './kept-plans';
import { MorePlaces } from './more-places';
import { NetPicture } from './net-picture';
import { labelIn, nameIn, netWords } from './net-words';
import { Outcome } from './outcome';
import { otherAddressWords } from './other-addresses';
import { addedAt, changeWords, planOf, planText, withChange } from './plan';
import { PlanShelf } from './plan-shelf';
import { UndoLast } from './undo-last';
import { whatIfWorker } from './what-if-worker';
import type { WhatIfAsked, WhatIfTold } from './reckoned';

const USUAL = { plan: '', beside: '', mesh: '', off: '' } as const satisfies Record<string, string>;
type Said = Record<keyof typeof USUAL, string>;

/** The net as it would be with something otherwise, and whom one would still reach. Nothing is sent. */
export function WhatIfPlace() {
  const [said, change] = useAddressed<Said>(USUAL);
  const bearers = useBearers();
  const meshes = (bearers.data ?? []).filter(({ config }) => carriageOf(config).what === 'texts');
  const isOfAll = said.mesh === EVERYBODY;
  const bearerId = said.mesh === '' || isOfAll ? null : said.mesh;
  const net = useQuery({
    queryKey: ['net', bearerId],
    queryFn: () => ask(planningRoutes.net, { query: { bearerId } }),
    staleTime: 60_000,
    enabled: !isOfAll,
  });
  return (
    <Page title="What if">
      <Body soft below={12}>
        Think of the net otherwise, and see whom you would still reach. Nothing is sent and nothing is changed. It rests
        on what was heard in two days, and on the map.
      </Body>
      <Choice
        label="Which net"
        value={said.mesh}
        // What was thought of one net says nothing of another.
        onChange={(mesh) => change({ ...USUAL, mesh })}
        options={[
          { id: '', title: 'Packet radio' },
          ...meshes.map(({ id, name }) => ({ id, title: name })),
          { id: EVERYBODY, title: 'All ways together, to the people of your list' },
        ]}
      />
      {isOfAll ? (
        <EveryWay off={said.off} beside={said.beside} change={change} />
      ) : net.isLoadingError ? (
        <Trouble error={net.error} retry={() => void net.refetch()} />
      ) : !net.data ? (
        <Waiting what="the net" />
      ) : net.data.own === null ? (
        <Empty icon="transit-connection-variant" title="Your own call is not set">
          The net is seen from your station: set your call in Settings first.
        </Empty>
      ) : bearerId !== null && net.data.mesh === null ? (
        <Empty icon="transit-connection-variant" title="This mesh has no frequency">
          How far its nodes reach hangs on how they are set: set its frequency under Bearers first.
        </Empty>
      ) : (
        <Thought
          key={said.mesh}
          net={net.data}
          own={net.data.own}
          said={said}
          change={change}
          again={() => void net.refetch()}
        />
      )}
    </Page>
  );
}

interface ThoughtProps {
  net: NetView;
  own: string;
  said: Said;
  change: (some: Partial<Said>) => void;
  again: () => void;
}

function Thought({ net, own, said, change, again }: ThoughtProps) {
  const unit = useDistanceUnit();
  const stations = useStations();
  const people = usePeople();
  const isMesh = net.mesh !== null;
  // An address may tell anything: only a mesh is set otherwise as a whole.
  const plan = useMemo(() => planOf(said.plan).filter(({ what }) => isMesh || what !== 'radio'), [said.plan, isMesh]);
  const [undone, setUndone] = useState<string | null>(null);
  const here = net.stations.find(({ call }) => call === own)?.place ?? null;
  const area = useMemo(() => areaOfNet(net, here, plan), [net, here, plan]);
  const ground = useGround(area);
  // What is looked for belongs to a plan: with another one it is over.
  const [search, setSearch] = useState<{ readonly more: number; readonly plan: string } | null>(null);
  const more = search?.plan === said.plan ? search.more : null;
  const asked = useMemo(
    (): WhatIfAsked | null =>
      area !== null && !ground.data && !ground.isError
        ? null
        : {
            net,
            ground: area && ground.data ? { area, heights: ground.data.heights } : null,
            changes: plan,
            more: more ?? 0,
            beside: [],
          },
    [net, area, ground.data, ground.isError, plan, more],
  );
  const { told, fault } = useWork<WhatIfAsked, WhatIfTold>(whatIfWorker, asked);
  const outcome = told?.outcome;
  const found = told?.what === 'found' ? told.places.map(({ place }) => place) : [];
  const words = netWords(net);
  const nameOf = nameIn(net);
  const labelOf = labelIn(net);
  const set = plan.find((one) => one.what === 'radio');
  const radio = net.mesh && { ...net.mesh, ...(set?.what === 'radio' && radioOf(set)) };
  const inWords = (one: Change) => changeWords(one, labelOf, words);
  const to = (changes: readonly Change[]) => {
    setUndone(said.plan);
    change({ plan: planText(changes) });
  };
  return (
    <View>
      <Heading level={2}>Thought otherwise</Heading>
      {plan.length === 0 ? <Body soft>Nothing yet: this is the net as it is known now.</Body> : null}
      <View role="list" aria-label="Thought otherwise">
        {plan.map((one) => (
          <Row role="listitem" key={inWords(one)} wrap align="center" justify="between">
            <Body shrink={1}>{inWords(one)}</Body>
            <Button
              title="As it is"
              about={inWords(one)}
              kind="plain"
              onPress={() => to(plan.filter((other) => other !== one))}
            />
          </Row>
        ))}
      </View>
      <UndoLast
        undone={undone}
        now={said.plan}
        back={(before) => {
          change({ plan: before });
          setUndone(null);
        }}
      />
      <Stack above={8}>
        <ChangeForm
          net={net}
          own={own}
          stations={stations.data ?? []}
          plan={plan}
          add={(one) => to(withChange(plan, one))}
        />
      </Stack>
      <Stack above={24} aria-live="polite">
        {ground.isError ? (
          <>
            <Trouble error={ground.error} retry={() => void ground.refetch()} />
            <Body>Without the ground all that is moved or added is reckoned as over the sea.</Body>
          </>
        ) : null}
        {ground.data && ground.data.missing.length > 0 ? (
          <Notice title="Elevation is missing">
            {`Without the tiles ${ground.data.missing.map((name) => `${name}.hgt`).join(', ')} the ground there is taken as sea.`}
          </Notice>
        ) : null}
        {fault ? <Notice title="It cannot be reckoned">{fault}</Notice> : null}
        {!outcome && !fault ? <Waiting what="whom you would reach" /> : null}
      </Stack>
      {outcome ? (
        <Outcome
          outcome={outcome}
          changed={plan.length > 0}
          words={words}
          labelOf={labelOf}
          nameOf={nameOf}
          elsewhere={(cutOff) =>
            otherAddressWords(cutOff.map(labelOf), net.bearerId === null ? 'call' : 'node', people.data ?? [])
          }
          without={(call) => to(withChange(plan, { what: 'off', call }))}
        />
      ) : null}
      {radio ? <AirOfSetting radio={radio} /> : null}
      {net.silences.map((words) => (
        <Body soft key={words}>
          {words}
        </Body>
      ))}
      {area && ground.data && outcome ? (
        <Stack above={16}>
          <Measured>
            {(width) => (
              <NetPicture
                area={area}
                ground={ground.data}
                net={net}
                changes={plan}
                rows={outcome.rows}
                found={found}
                width={Math.min(width, 640)}
                title="The net over the land, north at the top. What it shows is told in the lists."
              />
            )}
          </Measured>
          <Body soft>
            Squares repeat, dots do not; the sand-coloured dot is you. Lines: heard, and carrying at least three of ten.
            Crossed out: off, or not reached. An open square: where one more would stand. Whom there is no room to name,
            the lists name.
          </Body>
        </Stack>
      ) : null}
      <MorePlaces
        words={words}
        end={net.addedEnd}
        more={more}
        told={told}
        obstacle={obstacleOf(area !== null, ground.data?.heights ?? null)}
        own={here}
        unit={unit}
        look={(count) => setSearch({ more: count, plan: said.plan })}
        stop={() => setSearch(null)}
        take={(place: Position) => to(withChange(plan, addedAt(plan, place, net.addedEnd)))}
      />
      <PlanShelf
        mesh={said.mesh}
        inWords={(text) => `${planOf(text).map(inWords).join('. ')}.`}
        plan={said.plan}
        beside={besideOf(said.beside)}
        setBeside={(names) => change({ beside: besideText(names) })}
        open={(text) => to(planOf(text))}
      />
      <BesideEachOther net={net} here={here} plan={said.plan} names={said.beside} nameOf={nameOf} />
      <Stack above={24} align="start">
        <Button title="Look at the net anew" kind="plain" onPress={again} />
      </Stack>
    </View>
  );
}

const radioOf = ({ frequencyHz, spreadingFactor, bandwidthHz }: Extract<Change, { readonly what: 'radio' }>) => ({
  frequencyHz,
  spreadingFactor,
  bandwidthHz,
});

/** Why no place can be looked for. */
function obstacleOf(placed: boolean, heights: string | null): string | null {
  if (!placed) return 'Nobody has told where they are.';
  if (heights === null) return 'The ground is not here yet.';
  return null;
}
