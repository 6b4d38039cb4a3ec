import type { NetView, StationView } from '@tombolo/contract';
import { MOST_HOPS, type Change, type RadioEnd } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { Offers } from '../../../ui/offers';
import { numberOf, placeOf } from '../reach/ends';
import { labelIn, netWords, type NetWords } from './net-words';
import { addedAt, type Plan } from './plan';
import { RadioForm } from './radio-form';

type Kind = Change['what'];

const kindsOf = (
  net: NetView,
  { station, repeater }: NetWords,
): readonly { readonly id: Kind; readonly title: string }[] => [
  { id: 'off', title: `A ${station} is off` },
  { id: 'cut', title: 'Two no longer hear each other' },
  { id: 'changed', title: `A ${station} is moved, or has another antenna or power` },
  { id: 'added', title: `One more ${repeater}` },
  ...(net.mesh
    ? ([
        { id: 'path', title: 'Another hop limit' },
        { id: 'radio', title: 'All nodes on another band, setting or power' },
      ] as const)
    : ([{ id: 'path', title: 'Your path asks for fewer digipeaters' }] as const)),
];

const REPEATS = [
  { id: '1', title: 'One alone' },
  { id: '0', title: 'None' },
] as const;

const BLANK = { call: '', other: '', place: '', antennaM: '', powerW: '', hops: '' };

interface ChangeFormProps {
  net: NetView;
  own: string;
  stations: readonly StationView[];
  plan: Plan;
  add: (change: Change) => void;
}

/** One thing that is thought to be otherwise. */
export function ChangeForm({ net, own, stations, plan, add }: ChangeFormProps) {
  const words = netWords(net);
  const labels = net.stations.map(({ label }) => label);
  const calledSo = (text: string) => net.stations.find(({ label, call }) => label === text || call === text)?.call;
  const [kind, setKind] = useState<Kind>('off');
  const [typed, setTyped] = useState(BLANK);
  const [tried, setTried] = useState(false);
  const [repeats, setRepeats] = useState<(typeof REPEATS)[number]['id']>('1');
  const set = (some: Partial<typeof BLANK>) => setTyped({ ...typed, ...some });
  const [called, calledOther] = [typed.call.trim().toUpperCase(), typed.other.trim().toUpperCase()];
  const [call, other] = [calledSo(called) ?? called, calledSo(calledOther) ?? calledOther];
  const known = (text: string, but: string) =>
    text === ''
      ? `a ${words.station === 'node' ? 'node' : 'call'} of this net`
      : text === but
        ? 'two different ones'
        : net.stations.some((one) => one.call === text)
          ? null
          : `${text} is not in this net`;
  const placed = kind === 'changed' || kind === 'added';
  const place = placeOf(typed.place, stations);
  const usual: RadioEnd =
    kind === 'added' ? net.addedEnd : (net.stations.find((one) => one.call === call)?.end ?? net.addedEnd);
  const antennaM = typed.antennaM.trim() === '' ? usual.antennaM : numberOf(typed.antennaM, 0.5, 500);
  const powerW = typed.powerW.trim() === '' ? usual.powerW : numberOf(typed.powerW, 0.001, 2000);
  const hops = kind === 'path' && net.mesh ? wholeOf(typed.hops) : Number(repeats);
  const faults = {
    call:
      kind === 'added' || kind === 'path' || kind === 'radio'
        ? null
        : kind === 'off' && call === own && own !== ''
          ? 'without this station there is no question'
          : known(call, ''),
    hops: typeof hops === 'string' ? hops : null,
    other: kind === 'cut' ? known(other, call) : null,
    // What was typed for another kind does not stand in the way.
    place: placed && typeof place === 'string' ? place : null,
    antennaM: placed && typeof antennaM === 'string' ? antennaM : null,
    powerW: placed && typeof powerW === 'string' ? powerW : null,
  };
  const shown = (fault: string | null, text: string) => (fault && (tried || text.trim() !== '') ? fault : undefined);
  const submit = () => {
    setTried(true);
    if (Object.values(faults).some((fault) => fault !== null)) return;
    const end: RadioEnd = { ...usual, antennaM: antennaM as number, powerW: powerW as number };
    if (kind === 'radio') return;
    if (kind === 'path') add({ what: 'path', mostRepeats: hops as number });
    else if (kind === 'off') add({ what: 'off', call });
    else if (kind === 'cut') add({ what: 'cut', from: call, to: other });
    else if (typeof place === 'string') return;
    else if (kind === 'changed')
      add({ what: 'changed', call, place: { latitude: place.latitude, longitude: place.longitude }, end });
    else if (kind === 'added') add(addedAt(plan, place, end));
    setTyped(BLANK);
    setTried(false);
  };
  const offered = (text: string, but: string) =>
    labels.filter((one) => one !== but && one !== text && one.startsWith(text)).slice(0, 6);
  return (
    <View>
      <Choice<Kind> label="What is otherwise" value={kind} onChange={setKind} options={kindsOf(net, words)} />
      {kind === 'radio' && net.mesh ? <RadioForm radio={net.mesh} add={add} /> : null}
      {kind === 'path' && net.mesh ? (
        <Field
          label="Hop limit"
          value={typed.hops}
          onChangeText={(text) => set({ hops: text })}
          inputMode="numeric"
          hint={`It is ${net.mostRepeats} now`}
          error={shown(faults.hops, typed.hops)}
        />
      ) : kind === 'path' ? (
        <Choice label="Digipeaters at most" value={repeats} onChange={setRepeats} options={REPEATS} />
      ) : null}
      {kind === 'added' || kind === 'path' || kind === 'radio' ? null : (
        <>
          <Field
            label={kind === 'cut' ? 'One of the two' : words.station === 'node' ? 'Node' : 'Station'}
            value={typed.call}
            onChangeText={(text) => set({ call: text })}
            autoCapitalize="characters"
            mono
            error={shown(faults.call, typed.call)}
          />
          <Offers
            label={`${words.station === 'node' ? 'Nodes' : 'Stations'} of this net`}
            mono
            words={offered(called, kind === 'off' ? labelIn(net)(own) : '')}
            verb="For"
            choose={(one) => set({ call: one })}
          />
        </>
      )}
      {kind === 'cut' ? (
        <>
          <Field
            label="The other"
            value={typed.other}
            onChangeText={(text) => set({ other: text })}
            autoCapitalize="characters"
            mono
            error={shown(faults.other, typed.other)}
          />
          <Offers
            label={`The other ${words.station}`}
            mono
            words={offered(calledOther, called)}
            verb="For"
            choose={(one) => set({ other: one })}
          />
        </>
      ) : null}
      {placed ? (
        <>
          <Field
            label="Where it stands"
            value={typed.place}
            onChangeText={(text) => set({ place: text })}
            autoCapitalize="characters"
            hint="A position in any form, or the call of a station that stands there"
            error={shown(faults.place, typed.place)}
          />
          <Row wrap columnGap={16}>
            {(
              [
                ['antennaM', 'Antenna above the ground, m'],
                ['powerW', 'Power, W'],
              ] as const
            ).map(([id, label]) => (
              <Stack key={id} grow={1} basis={200}>
                <Field
                  label={label}
                  value={typed[id]}
                  onChangeText={(text) => set({ [id]: text })}
                  inputMode="decimal"
                  hint={typed[id].trim() === '' ? `Empty: ${usual[id]}` : undefined}
                  error={shown(faults[id], typed[id])}
                />
              </Stack>
            ))}
          </Row>
        </>
      ) : null}
      {kind === 'radio' ? null : (
        <Stack align="start">
          <Button title="Think it so" onPress={submit} />
        </Stack>
      )}
    </View>
  );
}

function wholeOf(text: string): number | string {
  const read = numberOf(text, 0, MOST_HOPS);
  return typeof read === 'number' && Number.isInteger(read) ? read : `a whole number from 0 to ${MOST_HOPS}`;
}
