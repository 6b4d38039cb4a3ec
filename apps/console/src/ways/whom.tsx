import { personNamed, type Person } from '@tombolo/contract';
import { planningRoutes } from '@tombolo/contract/routes/planning';
import { parseStationCall } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { viewOf } from '../drafts/draft';
import { useDraft, useDrafts } from '../drafts/drafts';
import { ask } from '../live/ask';
import { useBearers, usePeople, useStations } from '../live/queries';
import { Field } from '../ui/field';
import { Stack } from '../ui/layout';
import { Offers } from '../ui/offers';
import { Body } from '../ui/text';
import { isSetWhole, partOf, proposingWay } from './chosen';

const MOST_OFFERED = 6;

/** Whom it is for, before anything else: the surest way to them is taken at once, and can be changed below. */
export function Whom() {
  const draft = useDraft();
  const people = usePeople();
  const stations = useStations();
  const bearers = useBearers();
  const [typed, setTyped] = useState<string | null>(null);
  const [told, setTold] = useState({ whom: '', words: '' });
  const value = typed ?? draft.whom;
  const offers =
    typed === null
      ? []
      : offered(
          typed,
          people.data ?? [],
          (stations.data ?? []).map(({ call }) => call),
        );

  const choose = async (to: string) => {
    const { id, precedence, withinMin } = draft;
    const text = draft.body;
    draft.change({ whom: to, addressee: '' });
    setTyped(null);
    const tell = (words: string) => setTold({ whom: to, words });
    tell(`Reckoning the ways to ${to} …`);
    try {
      const view = await ask(planningRoutes.ways, { body: { to, text, precedence, withinMin } });
      const first = view.ways[0];
      // Whoever is quick asks before the bearers are told.
      const known = bearers.data ?? (await bearers.refetch()).data ?? [];
      const part = first ? partOf(first, known) : null;
      // Whoever chose another meanwhile is not overruled.
      if (useDrafts.getState().drafts[id]?.whom !== to) return;
      if (first && part) {
        const now = viewOf(useDrafts.getState().drafts[id]!);
        useDrafts.getState().change(proposingWay(first, part, view.person, to, now.body), id);
      }
      tell(
        !first
          ? `No way to ${to} is known.`
          : part
            ? isSetWhole(first)
              ? `Proposed and set below: ${first.title}.`
              : `Proposed: ${first.title}. Nothing of ours was answered by that path yet, so below stands the one that is taken where nobody chooses.`
            : `Proposed: ${first.title}; its bearer is not there now. Choose a way yourself.`,
      );
    } catch (error) {
      tell(`The ways cannot be told now: ${(error as Error).message} Choose a way yourself.`);
    }
  };

  return (
    <Stack below={8}>
      <Field
        label="Whom"
        value={value}
        onChangeText={setTyped}
        autoCapitalize="none"
        maxLength={254}
        onSubmitEditing={() => {
          const wanted = offers.length === 1 ? offers[0]! : value.trim();
          if (wanted !== '') void choose(wanted);
        }}
        hint="A name of your people, a call, a number, a mail address or somebody at a board (QT1NC@QT1BB-4): the way that will most likely arrive is proposed. Enter takes it."
      />
      <Offers label="Whom it may be" verb="For" words={offers} choose={(word) => void choose(word)} />
      {/* What was told of one is not true of another. */}
      <View role="status">{told.words !== '' && told.whom === draft.whom ? <Body soft>{told.words}</Body> : null}</View>
    </Stack>
  );
}

/** People by any part of their name first, then calls that were heard. */
function offered(typed: string, people: readonly Person[], calls: readonly string[]): string[] {
  const word = typed.trim().toLowerCase();
  if (word === '') return people.map(({ name }) => name).slice(0, MOST_OFFERED);
  const named = people.filter(({ name }) => name.toLowerCase().includes(word)).map(({ name }) => name);
  const heard = calls.filter((call) => parseStationCall(call).ok && call.toLowerCase().startsWith(word));
  return [...named, ...heard].filter((one) => one !== typed || personNamed(one, people)).slice(0, MOST_OFFERED);
}
